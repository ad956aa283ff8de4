"use client";
import { useState } from "react";
import { toast } from "sonner";
import type { CallResult } from "../../server/api/contract";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count } from "../shell/format";
import { useSite } from "../shell/site-context";

type Addition = CallResult<"live.summary">["theme"][number];

/** What the theme does to every page, told once, with what follows from it. */
export function ThemeNotes({ theme, onTaken }: { theme: readonly Addition[]; onTaken: () => void }) {
  const { refresh } = useSite();
  const [busy, setBusy] = useState(false);
  const take = async ({ text, before, behind }: Addition) => {
    setBusy(true);
    try {
      await call("live.takeTheme", { text, before, behind });
      await refresh();
      onTaken();
      toast("The surfaces are narrower now; what no longer fits is found on the Board");
    } catch (e) {
      toast.error(wordsOf(e));
    } finally {
      setBusy(false);
    }
  };
  return (
    <ul className="mb-5 space-y-3" aria-label="What the theme adds">
      {theme.map((own) => (
        <li key={`${own.text} ${own.before} ${own.behind}`} className="border-l-4 border-rule bg-raised px-4 py-2">
          <p>
            The site adds{" "}
            <b>
              {[own.before, own.behind]
                .filter(Boolean)
                .map((part) => `“${part}”`)
                .join(" and ")}
            </b>{" "}
            {own.behind === "" ? "before" : own.before === "" ? "behind" : "around"} the {own.text} of{" "}
            {own.pages === own.of ? `all ${count(own.of)}` : `${count(own.pages)} of the ${count(own.of)}`} pages
            checked: <b>{count(own.px)} px</b> less room.
          </p>
          {own.isTaken ? (
            <p className="mt-1 text-soft">The surfaces are narrower by that already.</p>
          ) : (
            <button type="button" className={`${PLAIN_ACTION} mt-2`} disabled={busy} onClick={() => void take(own)}>
              Make the surfaces narrower by {count(own.px)} px
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
