"use client";
import { useEffect } from "react";
import { toast } from "sonner";

const ID = "review overtaken";

/** Says that something else would go out by now. It stands until it is read: nothing was applied, and nothing else on the screen says so. */
export function sayOvertaken(message: string): void {
  toast.error(message, { id: ID, duration: Infinity, cancel: { label: "Close", onClick: () => {} } });
}

/** Takes that back: the review is looked at anew. */
export function forgetOvertaken(): void {
  toast.dismiss(ID);
}

/** Takes it back when the review is left. */
export function useForgetting(): void {
  useEffect(() => forgetOvertaken, []);
}
