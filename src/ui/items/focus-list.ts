/** Gives the focus back to the list, once what was open over it or beside it is gone. */
export function focusList(): void {
  requestAnimationFrame(() => document.querySelector<HTMLElement>("[role=grid]")?.focus());
}
