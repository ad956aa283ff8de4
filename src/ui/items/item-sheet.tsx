"use client";
import Link from "next/link";
import { useEffect, useState } from "react";
import { type FoundText } from "../../core/checks/check-text";
import { type FindingId } from "../../core/checks/findings";
import { kindWord, type TextName, TEXTS } from "../../core/design/kinds";
import type { ItemSheet as Sheet } from "../../server/items-list";
import type { Side } from "../../server/site-findings";
import { ask } from "../shell/api";
import { PLAIN_ACTION } from "../shell/actions";
import { findingKind, SUBJECT_LABELS } from "./findings-panel";

/** One page whole: its texts on both sides, what was found in each and how to mend it. */
export function ItemSheet({ item, revision, onClose }: { item: string; revision: number; onClose: () => void }) {
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    let stale = false;
    const [kind, id] = item.split("-");
    setError(null);
    ask<Sheet | null>("/api/sheet", { body: { kind, id: Number(id) } })
      .then((answer) => !stale && (answer ? setSheet(answer) : setError("That page is no longer there")))
      .catch((e: unknown) => !stale && setError(e instanceof Error ? e.message : String(e)));
    return () => {
      stale = true;
    };
  }, [item, revision]);
  return (
    <aside aria-label="The page" tabIndex={0} className="min-h-0 overflow-auto border-l border-key bg-sheet px-4 pb-4 pt-3" onKeyDown={(event) => event.key === "Escape" && onClose()}>
      <button type="button" onClick={onClose} className="float-right text-soft underline decoration-hair underline-offset-4 hover:text-key">
        Close
      </button>
      {error && <p className="text-magenta">{error}</p>}
      {sheet && (
        <>
          <h2 className="font-[family-name:var(--font-desktop)] text-[15px] font-bold leading-snug">{sheet.name || "A page without a name"}</h2>
          <p className="break-words font-mono text-[12px] text-soft">{sheet.path}</p>
          <p className="mt-1 text-soft">{sheet.keyword ? <mark className="marker px-0.5 text-inherit">{sheet.keyword}</mark> : "No focus keyword"}</p>
          <Link href={`/bench?kind=${sheet.kind}&text=title&pages=all&item=${sheet.id}`} className={`${PLAIN_ACTION} mt-2 inline-block`}>
            Open among {kindWord(sheet.kind, 2)} on the Bench
          </Link>
          {TEXTS.map((text) => (
            <section key={text} aria-label={SUBJECT_LABELS[text]} className="mt-4">
              <h3 className="border-b border-key pb-0.5 font-semibold">{SUBJECT_LABELS[text]}</h3>
              <Text sheet={sheet} text={text} side="live" />
              {sheet.texts[text].draft !== sheet.texts[text].live && <Text sheet={sheet} text={text} side="draft" />}
            </section>
          ))}
          {sheet.found.live.page.length > 0 && (
            <section aria-label="Page" className="mt-4">
              <h3 className="border-b border-key pb-0.5 font-semibold">Page</h3>
              <ul>
                {sheet.found.live.page.map((id) => (
                  <Found key={id} subject="page" id={id} />
                ))}
              </ul>
            </section>
          )}
        </>
      )}
    </aside>
  );
}

function Text({ sheet, text, side }: { sheet: Sheet; text: TextName; side: Side }) {
  const own = sheet.texts[text];
  const value = own[side];
  const size = side === "live" ? own.liveSize : own.draftSize;
  const fits = side === "live" ? own.liveFits : own.draftFits;
  const found = sheet.found[side].texts[text];
  const before = new Set(sheet.found.live.texts[text].map(({ id }) => id));
  const ids = [...new Set(found.map(({ id }) => id))];
  return (
    <div className="mt-1.5">
      <p className="flex justify-between text-[12px] text-soft">
        <span>{side === "live" ? "On the site" : "Under the draft"}</span>
        <span className={fits ? "" : "text-magenta"}>
          {Math.round(size)} {text === "slug" ? "characters" : "px"}
          {fits || text === "slug" ? "" : ", too wide"}
        </span>
      </p>
      <p className="break-words" style={{ fontFamily: text === "slug" ? "var(--font-mono)" : "var(--font-desktop)" }}>
        {value === "" ? <span className="text-magenta">Nothing</span> : <Marked text={value} found={found} />}
      </p>
      <ul>
        {ids.map((id) => (
          <Found key={id} subject={text} id={id} state={side === "live" ? undefined : before.has(id) ? "stays" : "new"} />
        ))}
      </ul>
      {side === "draft" && [...before].filter((id) => !ids.includes(id)).length > 0 && (
        <p className="text-[12px] text-soft">Mended: {[...before].filter((id) => !ids.includes(id)).map((id) => findingKind(text, id).label.toLowerCase()).join(", ")}</p>
      )}
    </div>
  );
}

function Found({ subject, id, state }: { subject: TextName | "page"; id: FindingId; state?: "new" | "stays" | undefined }) {
  const kind = findingKind(subject, id);
  return (
    <li className="border-b border-hair py-1 text-[12.5px]">
      <b className="font-semibold text-magenta">{kind.label}</b>
      {state && <span className="text-soft"> ({state})</span>} <span className="text-soft">{kind.why}</span> {kind.mend}
    </li>
  );
}

/** A text with what was found in it underlined where it stands. */
function Marked({ text, found }: { text: string; found: readonly FoundText[] }) {
  const spans = found.filter(({ from, to }) => from !== null && to !== null && to > from).map(({ from, to }) => ({ from: from!, to: to! })).sort((a, b) => a.from - b.from);
  const parts: { text: string; marked: boolean }[] = [];
  let at = 0;
  for (const { from, to } of spans) {
    if (from < at) continue;
    parts.push({ text: text.slice(at, from), marked: false }, { text: text.slice(from, to), marked: true });
    at = to;
  }
  parts.push({ text: text.slice(at), marked: false });
  return (
    <>
      {parts.map((part, i) =>
        part.marked ? (
          <span key={i} className="underline decoration-magenta decoration-wavy decoration-1 underline-offset-4">
            {part.text}
          </span>
        ) : (
          part.text
        ),
      )}
    </>
  );
}
