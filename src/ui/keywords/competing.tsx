"use client";
import { type KeyboardEvent, useRef, useState } from "react";
import { PLACES } from "../../core/keywords/places";
import type { Competition } from "../../server/keywords/competing-pages";
import { PLAIN_ACTION } from "../shell/actions";
import { type Edits } from "../shell/edits";
import { count, counted } from "../shell/format";
import { call } from "../shell/api";
import { focusFirst, useOneStop } from "../shell/one-stop";
import { useCall } from "../shell/queries";
import { ROW_AT } from "../shell/row-keys";
import { PageLink } from "../shell/page-link";

/** So many competitions are shown at first, and as many more each time. */
const STEP = 10;

/** Pages that compete for a keyword: with the places each has it in, and the way to settle it. */
export function Competing({ stamp, edits }: { stamp: string; edits: Edits }) {
  const [most, setMost] = useState(STEP);
  const list = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  useOneStop(list, at);
  const { answer, error } = useCall("keywords.competing", { from: 0, count: Math.min(500, most) }, stamp);
  if (error) return <p className="px-5 py-3 text-magenta">{error}</p>;
  if (!answer) return <p className="px-5 py-3 text-soft">Looking for pages that share a keyword …</p>;
  if (answer.total === 0) return <p className="px-5 py-6 text-soft">No two pages share a keyword.</p>;
  const last = answer.competitions.length - 1;
  const onKeyDown = (event: KeyboardEvent) => {
    // Within a keyword keys are its controls’.
    if (event.target !== event.currentTarget) return;
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: last }[event.key];
    if (event.key === "Enter") focusFirst(list.current, at);
    else if (to === undefined) return;
    else {
      const next = Math.max(0, Math.min(last, to));
      setAt(next);
      list.current?.querySelector(`[data-row="${next}"]`)?.scrollIntoView({ block: "nearest" });
    }
    event.preventDefault();
  };
  return (
    <div
      ref={list}
      className="group/rows min-h-0 flex-1 overflow-auto px-5 pb-6"
      tabIndex={0}
      role="region"
      aria-label="Pages that compete: arrows go from keyword to keyword, Enter into one"
      onKeyDown={onKeyDown}
    >
      <p className="py-3 text-soft">
        {counted(answer.total, "keyword is", "keywords are")} shared by several pages. Keep each on the page it belongs
        to, and give the other pages one of their own.
      </p>
      {answer.competitions.map((own, place) => (
        <div
          key={`${own.keyword} ${own.pages}`}
          data-row={place}
          onFocus={() => setAt(place)}
          className={place === at ? ROW_AT : ""}
        >
          <Settle competition={own} edits={edits} />
        </div>
      ))}
      {answer.total > most && (
        <button type="button" className={PLAIN_ACTION} onClick={() => setMost(most + STEP)}>
          Show more, {count(answer.total - most)} are left
        </button>
      )}
    </div>
  );
}

function Settle({ competition, edits }: { competition: Competition; edits: Edits }) {
  const { keyword, volume, pages, competitors } = competition;
  const most = Math.max(...competitors.map(({ places }) => places.length));
  const [keep, setKeep] = useState(() => competitors.findIndex(({ places }) => places.length === most));
  const [instead, setInstead] = useState(() => competitors.map((own) => own.instead));
  const [busy, setBusy] = useState(false);
  const settle = () => {
    setBusy(true);
    const others = competitors.flatMap(({ kind, id }, i) => (i === keep ? [] : [{ kind, id, keyword: instead[i]! }]));
    void edits.take(() => call("keywords.assign", { pages: others as never })).finally(() => setBusy(false));
  };
  return (
    <section aria-label={`Pages that compete for ${keyword}`} className="border-t border-key pb-5 pt-2">
      <div className="flex items-baseline gap-3">
        <h3 className="text-[15px]">
          <mark className="marker px-0.5 font-bold text-inherit">{keyword}</mark>
        </h3>
        <span className="text-soft">
          {counted(pages, "page", "pages")}
          {volume === null ? "" : `, searched for ${count(volume)} times`}
        </span>
        <button type="button" className={`${PLAIN_ACTION} ml-auto`} disabled={busy} onClick={settle}>
          Resolve
        </button>
      </div>
      <table className="mt-1 w-full table-fixed">
        <thead className="narrow text-left text-[12px] text-soft">
          <tr>
            <th scope="col" className="w-14 font-normal">
              keep
            </th>
            <th scope="col" className="font-normal">
              page
            </th>
            <th scope="col" className="w-[328px] font-normal">
              where it appears, in the drafts
            </th>
            <th scope="col" className="w-60 font-normal">
              new keyword; empty for none
            </th>
          </tr>
        </thead>
        <tbody>
          {competitors.map((own, i) => (
            <tr key={`${own.kind}-${own.id}`} className="border-b border-hair align-middle">
              <td className="py-1.5">
                <input
                  type="radio"
                  name={`keep ${keyword}`}
                  checked={keep === i}
                  onChange={() => setKeep(i)}
                  aria-label={`Keep ${keyword} on ${own.name}`}
                />
              </td>
              <td className="max-w-0 py-1.5 pr-4">
                <PageLink page={own} />
              </td>
              <td className="py-1.5">
                <span
                  className="flex gap-1"
                  role="img"
                  aria-label={own.places.length === 0 ? "nowhere" : own.places.join(", ")}
                >
                  {PLACES.map((place) => (
                    <span
                      key={place}
                      title={place}
                      aria-hidden="true"
                      className={`narrow w-[35px] overflow-hidden rounded-sm border px-0.5 text-center text-[11px] leading-[18px] ${own.places.includes(place) ? "border-hair bg-raised" : "border-dashed border-faint text-faint"}`}
                    >
                      {SHORT[place]}
                    </span>
                  ))}
                </span>
              </td>
              <td className="py-1.5">
                {keep === i ? (
                  <span className="text-soft">keeps it</span>
                ) : (
                  <input
                    aria-label={`Keyword of ${own.name} instead`}
                    value={instead[i]}
                    maxLength={200}
                    placeholder="no keyword"
                    onChange={(event) => setInstead(instead.map((value, k) => (k === i ? event.target.value : value)))}
                    className="w-full rounded-sm border border-edge bg-sheet px-2 py-0.5 placeholder:text-faint"
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {pages > competitors.length && (
        <p className="py-1 text-[12px] text-soft">
          and {counted(pages - competitors.length, "more page", "more pages")}; resolve these first
        </p>
      )}
    </section>
  );
}

const SHORT: Record<(typeof PLACES)[number], string> = {
  title: "title",
  "first third": "third",
  visible: "seen",
  description: "descr.",
  slug: "slug",
  H1: "H1",
  "first paragraph": "intro",
  body: "body",
};
