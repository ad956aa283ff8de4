"use client";
import { useEffect, useState } from "react";
import { Later, useLater } from "./later";
import { PALETTE_BOX, PALETTE_HINT, PALETTE_INPUT } from "./palette-look";
import { useRouter } from "./site-path";
import { VIEWS } from "./views";

const DIALOG = new Later(() => import("./palette-dialog"));

/** Every action by name: Ctrl K; and the views by their keys. */
export function Palette() {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
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
  const close = () => {
    setOpen(false);
    setTyped("");
  };
  if (!open) return null;
  if (dialog) return <dialog.PaletteDialog begun={typed} onClose={close} />;
  // What is typed while the list is on its way is not lost, and does nothing elsewhere.
  return (
    <div className={PALETTE_BOX} onKeyDown={(event) => event.key === "Escape" && close()}>
      <input
        autoFocus
        aria-label="Actions"
        value={typed}
        placeholder={PALETTE_HINT}
        className={PALETTE_INPUT}
        onChange={(event) => setTyped(event.target.value)}
      />
    </div>
  );
}
