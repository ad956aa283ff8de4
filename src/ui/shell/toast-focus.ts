"use client";
import { useEffect } from "react";

/**
 * Gives the focus back as soon as a message's button was pressed. The messages would give it back themselves, but only when the last of them
 * goes, which is seconds later: to where it once was, out of whatever the person is at by then.
 */
export function useToastFocus(): void {
  useEffect(() => {
    const release = ({ target }: MouseEvent) => {
      const button = target instanceof Element && target.closest("[data-sonner-toast] button");
      if (button && button.contains(document.activeElement)) (document.activeElement as HTMLElement).blur();
    };
    document.addEventListener("click", release);
    return () => document.removeEventListener("click", release);
  }, []);
}
