"use client";
import { useEffect, useState } from "react";
import type { Foreseen } from "../../server/exchange/foresee";
import type { CallInput } from "../../server/api/contract";
import { call, isAborted, wordsOf } from "../shell/api";
import { count, counted, listed } from "../shell/format";
import { useKindWord, useSite } from "../shell/site-context";
import { pagesStamp } from "../shell/site-stamps";

type Mapping = CallInput<"exchange.foresee">["mapping"];

/** A mapping is looked at when nothing of it changed for so many ms. */
const PAUSE = 250;

/** What bringing a file in would do, as the columns are mapped now; `null` while it is read. */
export function useForecast(token: string | null, mapping: Mapping, isUsable: boolean) {
  const [foreseen, setForeseen] = useState<Foreseen | null>(null);
  const [rows, setRows] = useState(0);
  const [error, setError] = useState<string | null>(null);
  // It rests on what the site has, too.
  const stamp = pagesStamp(useSite().state);
  const asked = JSON.stringify([token, mapping, isUsable, stamp]);
  useEffect(() => {
    setForeseen(null);
    setError(null);
    setRows(0);
    if (token === null || !isUsable) return;
    const gone = new AbortController();
    const timer = setTimeout(() => {
      call("exchange.foresee", { token, mapping }, { signal: gone.signal, onProgress: (read: never) => setRows(read) })
        .then((answer) => !gone.signal.aborted && setForeseen(answer))
        .catch((e: unknown) => {
          if (!isAborted(e) && !gone.signal.aborted) setError(wordsOf(e));
        });
    }, PAUSE);
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [asked]); // eslint-disable-line react-hooks/exhaustive-deps
  return { foreseen, rows, error };
}

/** Says what bringing the file in would do: how many pages are new, change, stay or are refused, and what changes, field by field. */
export function Forecast({
  foreseen,
  rows,
  error,
  areAll,
  onAreAll,
}: ReturnType<typeof useForecast> & { areAll: boolean; onAreAll: (areAll: boolean) => void }) {
  return (
    <section aria-label="What the import would do" className="mt-4 border-l-4 border-rule bg-sheet px-4 py-2">
      {error && (
        <p role="alert" className="text-magenta">
          {error}
        </p>
      )}
      {!foreseen && !error && (
        <p role="status" className="text-soft">
          Working out what would change{rows > 0 ? `: ${counted(rows, "row", "rows")} so far` : ""} …
        </p>
      )}
      {foreseen && (
        <>
          <p role="status">
            {counted(foreseen.rows, "row", "rows")}: <Figure value={foreseen.added} label="new" />,{" "}
            {foreseen.returned > 0 && (
              <>
                <Figure value={foreseen.returned} label="restored" />,{" "}
              </>
            )}
            <Figure value={foreseen.updated} label="changed" />, <Figure value={foreseen.unchanged} label="the same" />,{" "}
            <Figure value={foreseen.refused} label="rejected" isBad />
          </p>
          {foreseen.untouched > 0 && <Missing foreseen={foreseen} areAll={areAll} onAreAll={onAreAll} />}
          {foreseen.fields.length > 0 && <Fields fields={foreseen.fields} />}
          {foreseen.firstRefused.length > 0 && (
            <details className="mt-1">
              <summary className="text-[12.5px] text-magenta">Rejected rows, and why</summary>
              <ul className="mt-1 space-y-0.5 text-[12.5px]">
                {foreseen.firstRefused.map(({ line, reason }) => (
                  <li key={line}>
                    Line {count(line)}: {reason}
                  </li>
                ))}
              </ul>
              {foreseen.refused > foreseen.firstRefused.length && (
                <p className="text-[12.5px] text-soft">The rest are listed after the import.</p>
              )}
            </details>
          )}
        </>
      )}
    </section>
  );
}

/** The pages that the file does not have: they stay, unless a person says that the file has all. */
function Missing({
  foreseen: { untouched, kinds, refused },
  areAll,
  onAreAll,
}: {
  foreseen: Foreseen;
  areAll: boolean;
  onAreAll: (areAll: boolean) => void;
}) {
  const kindWord = useKindWord();
  const names = listed(kinds.map((kind) => kindWord(kind, 2)));
  return (
    <p className="mt-1 flex flex-wrap items-baseline gap-x-5">
      <span className={areAll ? "" : "text-soft"}>
        {counted(untouched, "page is", "pages are")} not in the file
        {areAll
          ? refused > 0
            ? `. They stay for now: the rejected rows may be theirs, so fix those first`
            : ` and will be marked as gone: kept, but left out of every count, list and line`
          : ` and ${untouched === 1 ? "stays as it is" : "stay as they are"}`}
      </span>
      <label className="flex items-baseline gap-2">
        <input type="checkbox" checked={areAll} onChange={(event) => onAreAll(event.target.checked)} />
        These are all {names} there are
      </label>
    </p>
  );
}

function Figure({ value, label, isBad = false }: { value: number; label: string; isBad?: boolean }) {
  return (
    <span className={value === 0 ? "text-soft" : isBad ? "font-bold text-magenta" : ""}>
      <b>{count(value)}</b> {label}
    </span>
  );
}

function Fields({ fields }: { fields: Foreseen["fields"] }) {
  return (
    <details className="mt-1">
      <summary className="text-[12.5px]">
        Changes:{" "}
        {fields
          .slice(0, 6)
          .map(({ field, count: pages }) => `${field} ${count(pages)}`)
          .join(" · ")}
        {fields.length > 6 && ` and ${fields.length - 6} more`}
      </summary>
      <dl className="mt-1 max-h-[220px] overflow-auto text-[12.5px]">
        {fields.map(({ field, count: pages, examples }) => (
          <div key={field} className="grid grid-cols-[170px_minmax(0,1fr)] gap-3 border-t border-hair py-1">
            <dt>
              <span className="font-mono">{field}</span>
              <span className="block text-soft">on {counted(pages, "page", "pages")}</span>
            </dt>
            <dd>
              {examples.map(({ name, before, after }, i) => (
                <p key={i} className="truncate">
                  <span className="text-soft">{name}: </span>
                  {field === "body" ? (
                    "body text changed"
                  ) : (
                    <>
                      <del className="text-faint">{before || "nothing"}</del> {after || "nothing"}
                    </>
                  )}
                </p>
              ))}
            </dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
