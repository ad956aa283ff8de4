"use client";
import { Toaster } from "sonner";

/**
 * What the program says in passing. It lies over the screen and is in nobody's way: a click goes through to what is beneath, but for its
 * buttons.
 */
export function Messages() {
  return (
    <Toaster
      position="bottom-left"
      toastOptions={{
        className:
          "!font-sans !text-[13px] !bg-bar !text-bar-text !border-0 !rounded-sm !pointer-events-none [&_button]:!pointer-events-auto",
        classNames: {
          actionButton: "!bg-yellow !font-bold !text-[var(--on-yellow)]",
          cancelButton: "!bg-bar-raised !font-semibold !text-bar-text",
        },
      }}
    />
  );
}
