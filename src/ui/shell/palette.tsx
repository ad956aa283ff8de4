"use client";
import { useEffect, useState } from "react";
import { Later, useLater } from "./later";
import { useRouter } from "./site-path";
import { VIEWS } from "./views";

const DIALOG = new Later(() => import("./palette-dialog"));

/** Every action by name: Ctrl K; and the views by their keys. */
export function Palette() {
  const [open, setOpen] = useState(false);
  const dialog = useLater(DIALOG, open);
  const router = useRouter();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
        event.preventDefault();
        setOpen((was) => !was);
      }
      if (event.altKey && !event.ctrlKey && !event.metaKey) {
        const view = VIEWS.find(({ key }) => event.key === key);
        if (view) {
          event.preventDefault();
          router.push(view.path);
        }
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [router]);
  return dialog && <dialog.PaletteDialog open={open} onOpen={setOpen} />;
}
