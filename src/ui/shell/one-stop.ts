import { type RefObject, useLayoutEffect } from "react";

export const CONTROLS = "a[href], button, input, select, [role=checkbox]";

/**
 * Makes a list of rows with controls one stop for Tab: of all controls only those of the row that the arrows came to can be gone to.
 *
 * @param at the value of that row’s `data-row`.
 */
export function useOneStop(list: RefObject<HTMLElement | null>, at: number): void {
  useLayoutEffect(() => {
    for (const row of list.current?.querySelectorAll<HTMLElement>("[data-row]") ?? []) {
      const isAt = row.dataset["row"] === String(at);
      for (const control of row.querySelectorAll<HTMLElement>(CONTROLS)) control.tabIndex = isAt ? 0 : -1;
    }
  });
}

/** Goes into a row, to its first control; says whether it has one. */
export function focusFirst(list: HTMLElement | null, row: number): boolean {
  const control = [...(list?.querySelectorAll<HTMLElement>(`[data-row="${row}"] *`) ?? [])].find((one) =>
    one.matches(CONTROLS),
  );
  control?.focus();
  return control !== undefined;
}
