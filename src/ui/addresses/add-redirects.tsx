"use client";
import { useRef, useState } from "react";
import { toast } from "sonner";
import { type RedirectReport } from "../../core/addresses/fold-redirects";
import type { RedirectsLook } from "../../server/redirects/calls";
import { PLAIN_ACTION } from "../shell/actions";
import { call } from "../shell/api";
import { count, counted } from "../shell/format";

/** So many lines of what is amiss are shown. */
const MOST_LINES = 8;

interface Looked {
  readonly text: string;
  readonly look: RedirectsLook;
}

/**
 * Redirects put in: one, a pasted list or a file; what they would do is shown before.
 *
 * @param begun a redirect to be written again: what is added takes its place.
 */
export function AddRedirects({ begun, onAdded }: { begun: string; onAdded: () => void }) {
  const [text, setText] = useState(begun);
  const [origin, setOrigin] = useState<"hand" | "file">("hand");
  const [looked, setLooked] = useState<Looked | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const tell = (e: unknown) => setError(e instanceof Error ? e.message : String(e));
  /** What stands in the box, also for what goes on after an answer. */
  const standing = useRef(begun);
  const edit = (next: string) => {
    standing.current = next;
    setText(next);
    setLooked(null);
    setError(null);
  };
  const look = async (own: string) => {
    setBusy(true);
    try {
      const answer = await call("redirects.look", { text: own });
      // Something else may stand there by now, which was not looked at.
      if (standing.current !== own) return;
      setLooked({ text: own, look: answer });
      setError(null);
    } catch (e) {
      tell(e);
    } finally {
      setBusy(false);
    }
  };
  const add = async (own: Looked) => {
    setBusy(true);
    try {
      const { added } = await call("redirects.add", { text: own.text, origin });
      toast(`${counted(added, "redirect", "redirects")} added`);
      // What could not be read stays to be mended, and what was typed meanwhile stays as it is.
      if (standing.current === own.text) {
        edit(own.look.refused.map(({ content }) => content).join("\n"));
        setOrigin("hand");
      }
      onAdded();
    } catch (e) {
      tell(e);
    } finally {
      setBusy(false);
    }
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    const own = await file.text();
    edit(own);
    setOrigin("file");
    await look(own);
  };
  return (
    <section aria-label="Add redirects">
      <h2 className="font-bold">Add redirects</h2>
      <p className="text-[12.5px] text-soft">
        One to a line: old path, new path, and a status if it is not 301. A table with a header works too, and{" "}
        <span className="font-mono text-[12px]">/old/* /new/*</span> takes a whole folder along.
      </p>
      <textarea
        aria-label="Redirects to add"
        autoFocus={begun !== ""}
        rows={4}
        value={text.length > 20_000 ? `${text.slice(0, 20_000)}…` : text}
        readOnly={text.length > 20_000}
        onChange={(event) => edit(event.target.value)}
        placeholder={"/old-rope /rope\n/old-catalogue/* /shop/*\n/sold-out 410"}
        className="mt-1 block w-full rounded-sm border border-edge bg-sheet px-2 py-1 font-mono text-[12px] placeholder:text-soft"
      />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {looked === null ? (
          <button
            type="button"
            className={PLAIN_ACTION}
            disabled={busy || text.trim() === ""}
            onClick={() => void look(text)}
          >
            Check them
          </button>
        ) : (
          <button
            type="button"
            className="rounded-sm bg-yellow px-3 py-1 font-bold text-[var(--on-yellow)] disabled:bg-hair disabled:text-soft"
            disabled={busy || looked.look.redirects === looked.look.known}
            onClick={() => void add(looked)}
          >
            Add {counted(looked.look.redirects - looked.look.known, "redirect", "redirects")}
          </button>
        )}
        <label className={`${PLAIN_ACTION} cursor-pointer focus-within:border-key`}>
          Choose a file
          <input
            type="file"
            aria-label="File of redirects"
            accept=".csv,.txt,.jsonl,.tsv"
            className="sr-only"
            onChange={(event) => {
              void take(event.target.files?.[0]).catch(tell);
              event.target.value = "";
            }}
          />
        </label>
        {text !== "" && (
          <button type="button" className="text-soft underline underline-offset-4" onClick={() => edit("")}>
            Clear
          </button>
        )}
      </div>
      <div role="status" className="pt-1 text-[12.5px]">
        {error && <p className="text-magenta">{error}</p>}
        {looked && <Look look={looked.look} />}
      </div>
    </section>
  );
}

function Look({ look }: { look: RedirectsLook }) {
  const { redirects, known, refused, reportCount, reports } = look;
  return (
    <>
      <p>
        {counted(redirects, "redirect", "redirects")} read
        {known > 0 && `, ${known === redirects ? "all" : count(known)} of them there already`}
        {reports.length === 0 && refused.length === 0 && redirects > known && ": nothing is amiss"}
      </p>
      {refused.length > 0 && (
        <Lines
          title={`${counted(refused.length, "line", "lines")} that cannot be read`}
          lines={refused.map(({ line, reason }) => `Line ${line}: ${reason}`)}
          count={refused.length}
        />
      )}
      {reports.length > 0 && (
        <Lines
          title={counted(reportCount, "thing to know", "things to know")}
          lines={reports.map(reportWords)}
          count={reportCount}
        />
      )}
    </>
  );
}

function Lines({ title, lines, count: all }: { title: string; lines: readonly string[]; count: number }) {
  return (
    <>
      <p className="mt-1 font-semibold text-magenta">{title}</p>
      <ul className="break-words">
        {lines.slice(0, MOST_LINES).map((line, i) => (
          <li key={i}>{line}</li>
        ))}
        {all > MOST_LINES && <li className="text-soft">and {count(all - MOST_LINES)} more</li>}
      </ul>
    </>
  );
}

function reportWords(report: RedirectReport): string {
  switch (report.what) {
    case "loop":
      return `${[...report.ring, report.ring[0]].join(" → ")} leads in a circle and is left out`;
    case "dead end":
      return `${report.from} leads to ${report.to}, where no page is`;
    case "collision":
      return `A page is at ${report.from}: nothing redirects there`;
    case "double":
      return `${report.from} led to ${report.earlier || "410"} before: the newer one counts`;
  }
}
