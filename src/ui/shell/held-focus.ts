"use client";
import { useEffect } from "react";

/** What the focus falls back to, from the inside out. */
const PLACES = "form, section, aside, nav, [role=dialog], [role=tabpanel], main";

interface Held {
  readonly element: HTMLElement;
  readonly around: readonly HTMLElement[];
  /** What had the focus before a dialog took it; `null` outside of one. */
  readonly opener: HTMLElement | null;
}

/**
 * Keeps the focus near where it was: from a dialog that goes it returns to what opened it; where the focused element is taken away or switched off, what stood around it is focused,
 * at last the view. Without it the focus falls to the document, and the next Tab begins at its top.
 */
export function useHeldFocus(): void {
  useEffect(() => {
    let last: Held | null = null;
    const remember = ({ target }: FocusEvent) => {
      if (!(target instanceof HTMLElement) || target === document.body) return;
      const around: HTMLElement[] = [];
      for (let place = target.parentElement?.closest<HTMLElement>(PLACES); place; place = placeAround(place))
        around.push(place);
      last = { element: target, around, opener: openerOf(target, last) };
    };
    const hold = () => {
      if (!last || document.activeElement !== document.body) return;
      const { element, around, opener } = last;
      if (element.isConnected && !element.matches(":disabled")) return;
      // What opened a dialog may be switched off while the page asks again; then what stands around it is tried.
      for (const place of [opener, ...around, document.querySelector<HTMLElement>("main")])
        if (place?.isConnected && takesFocus(place)) return;
    };
    // Whoever presses beside things wants nothing to have the focus, whatever becomes of what had it.
    const pressed = () =>
      setTimeout(() => {
        if (document.activeElement === document.body && last?.element.isConnected) last = null;
      });
    document.addEventListener("focusin", remember);
    document.addEventListener("pointerdown", pressed);
    const watcher = new MutationObserver(hold);
    watcher.observe(document.body, { subtree: true, childList: true, attributeFilter: ["disabled"] });
    return () => {
      document.removeEventListener("focusin", remember);
      document.removeEventListener("pointerdown", pressed);
      watcher.disconnect();
    };
  }, []);
}

function openerOf(target: HTMLElement, before: Held | null): HTMLElement | null {
  const dialog = target.closest("[role=dialog]");
  if (!dialog || !before) return null;
  return dialog.contains(before.element) ? before.opener : before.element;
}

function placeAround(place: HTMLElement): HTMLElement | null {
  return place.parentElement?.closest<HTMLElement>(PLACES) ?? null;
}

function takesFocus(place: HTMLElement): boolean {
  if (place.tabIndex < 0 && !place.hasAttribute("tabindex")) place.tabIndex = -1;
  place.focus({ preventScroll: true });
  return document.activeElement === place;
}
