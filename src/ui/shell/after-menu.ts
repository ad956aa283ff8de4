import { useRef } from "react";

/**
 * Does something when a menu has closed. What opens then keeps the focus, which the menu would otherwise give back to its button: a
 * slow machine does that after the form is there, and a form that loses the focus closes.
 */
export function useAfterMenu(): {
  readonly afterMenu: (then: () => void) => void;
  /** For the menu's content. */
  readonly onCloseAutoFocus: (event: Event) => void;
} {
  const next = useRef<(() => void) | null>(null);
  return {
    afterMenu: (then) => (next.current = then),
    onCloseAutoFocus: (event) => {
      const then = next.current;
      if (!then) return;
      event.preventDefault();
      next.current = null;
      then();
    },
  };
}
