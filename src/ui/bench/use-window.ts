"use client";
import { useEffect, useLayoutEffect, useState } from "react";

/** Ctrl Z and its opposite, wherever the focus is but in an ordinary input. */
export function useUndoKeys(undo: () => void, redo: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.defaultPrevented) return;
      const target = event.target as HTMLElement;
      if (target.isContentEditable || target.tagName === "INPUT" || target.tagName === "TEXTAREA") return;
      const key = event.key.toLowerCase();
      if (key === "z") (event.shiftKey ? redo : undo)();
      else if (key === "y") redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);
}

/** How wide the window is, in px. */
export function useWindowWidth(): number {
  const [width, setWidth] = useState(1280);
  // Before anything is drawn: what has no room is not brought in.
  useLayoutEffect(() => {
    const measure = () => setWidth(window.innerWidth);
    measure();
    window.addEventListener("resize", measure);
    return () => window.removeEventListener("resize", measure);
  }, []);
  return width;
}
