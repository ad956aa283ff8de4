"use client";
import { toast } from "sonner";
import { wordsOf } from "./api";

/** Says why something that was asked for could not be done: `call(…).catch(sayFailure)`. */
export function sayFailure(error: unknown): void {
  toast.error(wordsOf(error));
}
