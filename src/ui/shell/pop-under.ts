import { type RefObject, useId, useRef } from "react";

/** From what it hangs on, and from the window's edge, in px. */
const GAP = 6;

interface PopUnder<P extends HTMLElement> {
  /** For the button that opens and closes it. */
  readonly trigger: { readonly ref: RefObject<HTMLButtonElement | null>; readonly popoverTarget: string };
  /** For what opens under it: the browser closes it by Escape or a click elsewhere, and gives the focus back. */
  readonly pop: {
    readonly ref: RefObject<P | null>;
    readonly id: string;
    readonly popover: "auto";
    readonly onBeforeToggle: () => void;
  };
}

/** Something small that opens under a button, by the browser's own means: nothing has to be loaded for it. */
export function usePopUnder<P extends HTMLElement>(): PopUnder<P> {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  const content = useRef<P>(null);
  const place = () => {
    const { left, top, bottom } = button.current!.getBoundingClientRect();
    const { style } = content.current!;
    style.left = `${left}px`;
    // Where there is more room above it opens above.
    const isLow = bottom > window.innerHeight * 0.75;
    style.top = isLow ? "auto" : `${bottom + GAP}px`;
    style.bottom = isLow ? `${window.innerHeight - top + GAP}px` : "auto";
    // Its width is known when it is open: before it is drawn it is moved in where it stands out.
    requestAnimationFrame(() => {
      const out = content.current ? content.current.getBoundingClientRect().right + GAP - window.innerWidth : 0;
      if (out > 0) style.left = `${Math.max(GAP, left - out)}px`;
    });
  };
  return {
    trigger: { ref: button, popoverTarget: id },
    pop: { ref: content, id, popover: "auto", onBeforeToggle: place },
  };
}
