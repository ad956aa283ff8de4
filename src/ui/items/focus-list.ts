/**
 * Gives the focus back to the list, once what was open over it or beside it is gone. It has it at once, so that no key is lost, and again where it
 * went with what was closed.
 */
export function focusList(): void {
  const focus = () => document.querySelector<HTMLElement>("[role=grid]")?.focus();
  focus();
  requestAnimationFrame(() => {
    if (document.activeElement === document.body) focus();
  });
}
