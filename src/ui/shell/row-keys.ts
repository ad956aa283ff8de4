import { type KeyboardEvent, type RefObject, useState } from "react";

interface RowKeys {
  /** The row that the keyboard is at, from 0. */
  readonly at: number;
  readonly put: (row: number) => void;
  /** For the list: goes from row to row; `false` where the key means nothing to it. */
  readonly onKeyDown: (event: KeyboardEvent) => void;
}

/**
 * One row of a windowed list has the keyboard, so that the list is one stop for Tab however many rows it has (ARIA Authoring
 * Practices, grid).
 *
 * @param list how many rows there are, how high each is in px, what scrolls them, how one is brought into view. @param act does
 * what another key means for the row; says whether it means something.
 */
export function useRowKeys(
  list: {
    readonly count: number;
    readonly height: number;
    readonly scroller: RefObject<HTMLElement | null>;
    readonly show: (row: number) => void;
  },
  act: (key: string, row: number) => boolean,
): RowKeys {
  const [row, put] = useState(0);
  const at = Math.max(0, Math.min(row, list.count - 1));
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const inView = Math.max(1, Math.floor((list.scroller.current?.clientHeight ?? 0) / list.height) - 1);
    const to = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + inView,
      PageUp: at - inView,
      Home: 0,
      End: list.count - 1,
    }[event.key];
    if (to === undefined) {
      if (!act(event.key, at)) return;
    } else {
      const next = Math.max(0, Math.min(list.count - 1, to));
      put(next);
      list.show(next);
    }
    event.preventDefault();
  };
  return { at, put, onKeyDown };
}

/** How the row that the keyboard is at is marked, as long as its list has the focus. The list is a `group/rows`. */
export const ROW_AT = "group-focus/rows:shadow-[inset_0_0_0_2px_var(--cyan-line)]";
