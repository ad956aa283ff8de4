"use client";
import { useEffect } from "react";
import { BAR_ACTION } from "../shell/actions";
import { type Edits } from "../shell/edits";

/** Takes the last step back, or does it again. */
export function UndoButtons({ edits: { steps, undo, redo } }: { edits: Edits }) {
  return (
    <>
      <button
        type="button"
        className={BAR_ACTION}
        disabled={!steps.undo}
        title={steps.undo ? `${steps.undo.label} (Ctrl Z)` : "Nothing to undo"}
        onClick={() => void undo()}
      >
        Undo
      </button>
      <button
        type="button"
        className={BAR_ACTION}
        disabled={!steps.redo}
        title={steps.redo ? `${steps.redo.label} (Ctrl Shift Z)` : "Nothing to redo"}
        onClick={() => void redo()}
      >
        Redo
      </button>
    </>
  );
}

/** Ctrl Z and Ctrl Shift Z, wherever no text is being typed. */
export function useUndoKeys(edits: Edits): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isUndo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z";
      if (!isUndo || event.defaultPrevented || !isFree(event.target)) return;
      event.preventDefault();
      void (event.shiftKey ? edits.redo() : edits.undo());
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [edits]);
}

function isFree(target: EventTarget | null): boolean {
  if (target === document.body) return true;
  if (!(target instanceof HTMLElement) || target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement)
    return false;
  return target.closest("[role=grid], nav, aside:not(:has(:focus:is(input,textarea)))") !== null;
}
