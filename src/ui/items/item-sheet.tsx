"use client";
import { folderOf } from "../../core/addresses/addresses";
import { type ItemSheet as Sheet } from "../../server/items/listed-item";
import Link from "../shell/link";
import { useMemo, useState } from "react";
import { type FoundText } from "../../core/checks/check-text";
import { type FindingId } from "../../core/checks/findings";
import { linesOf } from "../../core/design/change-rules";
import { limitsOf, type Site } from "../../core/design/design";
import { type TextName, TEXTS, kindOf, type Kind } from "../../core/design/kinds";
import { fitsSurface } from "../../core/measure/wrap";
import { charCount } from "../../core/text/char-count";
import { parseLine } from "../../core/lines/parse";
import { type Side } from "../../core/checks/findings";
import type { ItemHistory } from "../../store/runs";
import { rowProverOf } from "../../core/proof/row-proof";
import { roomOf } from "../../core/proof/site-room";
import { ResultPreview, TabPreview } from "../proof/result-preview";
import { Why } from "../proof/why";
import { PLAIN_ACTION } from "../shell/actions";
import { ago, when } from "../shell/format";
import { useSite, useKindWord } from "../shell/site-context";
import { draftOf } from "../shell/site-kinds";
import { findingKind, SUBJECT_LABELS } from "./findings-panel";
import { SheetExtras } from "./sheet-extras";
import { SheetPaths } from "./sheet-paths";
import { SheetLinks } from "./sheet-links";
import type { EditAction } from "../../server/edits/plan-edit";
import type { Choice } from "../shell/edits";
import type { CallResult } from "../../server/api/contract";
import { useCall } from "../shell/queries";

type WholeSheet = NonNullable<CallResult<"items.sheet">>;

/** One page whole: its texts on both sides and on each surface, what was found in each, why it reads so, what runs did to it, its fields. */
export function ItemSheet({
  item,
  site,
  stamp,
  onEdit,
  onClose,
}: {
  item: string;
  site: Site;
  stamp: string;
  onEdit: (choice: Choice, action: EditAction) => Promise<boolean>;
  onClose: () => void;
}) {
  const kindWord = useKindWord();
  const [kind, id] = item.split("-");
  const asked = useCall("items.sheet", { kind: kind as Kind, id: Number(id) }, stamp);
  const sheet = asked.answer;
  // What is of another page does not stand on this one while its own is on the way.
  const page = sheet && `${sheet.kind}-${sheet.id}`;
  const error = asked.error ?? (asked.isCurrent && sheet === null ? "That page no longer exists" : null);
  return (
    <aside
      aria-label="The page"
      tabIndex={0}
      className="desk-side min-h-0 overflow-auto border-l border-key bg-sheet px-4 pb-4 pt-3"
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <button
        type="button"
        onClick={onClose}
        className="float-right text-soft underline decoration-hair underline-offset-4 hover:text-key"
      >
        Close
      </button>
      {error && <p className="text-magenta">{error}</p>}
      {sheet && (
        <>
          <h2 className="font-[family-name:var(--font-desktop)] text-[15px] font-bold leading-snug">
            {sheet.name || "A page without a name"}
          </h2>
          <p className="break-words font-mono text-[12px] text-soft">{sheet.path}</p>
          <p className="mt-1 text-soft">
            {sheet.keyword ? <mark className="marker px-0.5 text-inherit">{sheet.keyword}</mark> : "No focus keyword"} ·{" "}
            {sheet.robots.draft}
          </p>
          <Link
            href={`/bench?kind=${sheet.kind}&text=title&pages=all&item=${sheet.id}`}
            className={`${PLAIN_ACTION} mt-2 inline-block`}
          >
            Open among {kindWord(sheet.kind, 2)} on the Bench
          </Link>
          <Surfaces sheet={sheet} site={site} />
          <Texts sheet={sheet} site={site} />
          {Object.values(site.extras).includes(true) && (
            <SheetExtras
              key={`extras of ${page}`}
              page={{ kind: sheet.kind as Kind, id: sheet.id }}
              stamp={stamp}
              onEdit={(action) => onEdit({ kind: sheet.kind, id: sheet.id }, action)}
            />
          )}
          <PageFindings sheet={sheet} />
          {sheet.path && (
            <SheetPaths key={`paths of ${page}`} id={sheet.id} path={sheet.path} stamp={stamp} heading={HEADING} />
          )}
          <SheetLinks key={`links of ${page}`} id={sheet.id} stamp={stamp} heading={HEADING} />
          <History history={sheet.history} />
          <Fields fields={sheet.fields} />
        </>
      )}
    </aside>
  );
}

const HEADING = "border-b border-key pb-0.5 font-semibold";

function Surfaces({ sheet, site }: { sheet: WholeSheet; site: Site }) {
  const [side, setSide] = useState<Side>("draft");
  const { title, description, slug } = sheet.texts;
  const folder = folderOf(sheet.path);
  const shared = {
    site,
    title: title[side],
    description: description[side],
    path: side === "live" ? sheet.path : folder + slug.draft,
    keyword: sheet.keyword,
  };
  const same = TEXTS.every((text) => sheet.texts[text].live === sheet.texts[text].draft);
  return (
    <section aria-label="Preview" className="mt-4">
      <h3 className={`${HEADING} flex justify-between`}>
        Preview
        {!same && (
          <span role="radiogroup" aria-label="Which texts" className="flex gap-3 font-normal">
            {(
              [
                ["live", "live"],
                ["draft", "draft"],
              ] as const
            ).map(([one, label]) => (
              <button
                key={one}
                type="button"
                role="radio"
                aria-checked={side === one}
                onClick={() => setSide(one)}
                className={
                  side === one
                    ? "font-semibold underline decoration-rule decoration-2 underline-offset-4"
                    : "text-soft hover:text-key"
                }
              >
                {label}
              </button>
            ))}
          </span>
        )}
      </h3>
      <p className="mt-2 text-[12px] text-soft">Desktop result, at two thirds</p>
      <div className="h-[74px] overflow-hidden">
        <div className="origin-top-left" style={{ transform: "scale(0.64)", width: 600 }}>
          <ResultPreview device="desktop" {...shared} />
        </div>
      </div>
      <p className="mt-2 text-[12px] text-soft">Phone result</p>
      <ResultPreview device="phone" {...shared} />
      <p className="mb-1 mt-2 text-[12px] text-soft">Browser tab</p>
      <TabPreview site={site} title={shared.title} />
    </section>
  );
}

function Texts({ sheet, site }: { sheet: WholeSheet; site: Site }) {
  const { state } = useSite();
  const design = kindOf(state.site, sheet.kind) ? draftOf(state, sheet.kind).design : null;
  const proofs = useMemo(
    () =>
      design
        ? Object.fromEntries(
            TEXTS.map((text) => [
              text,
              rowProverOf(site).prove(
                [sheet.row],
                (owner) => {
                  const source = linesOf(design, owner)[text];
                  return source === undefined ? null : parseLine(source);
                },
                text,
              )[0]!,
            ]),
          )
        : null,
    [sheet.row, design, site],
  );
  return TEXTS.map((text) => {
    const { width, unit } = roomOf(site, text);
    return (
      <section key={text} aria-label={SUBJECT_LABELS[text]} className="mt-4">
        <h3 className={HEADING}>{SUBJECT_LABELS[text]}</h3>
        <Text sheet={sheet} site={site} text={text} side="live" />
        {sheet.texts[text].draft !== sheet.texts[text].live && (
          <Text sheet={sheet} site={site} text={text} side="draft" />
        )}
        {proofs && design && (
          <details className="mt-1.5">
            <summary className="text-[12px] text-soft hover:text-key">Why this {text}</summary>
            <Why proof={proofs[text]!} design={design} text={text} width={width} unit={unit} />
          </details>
        )}
      </section>
    );
  });
}

function PageFindings({ sheet }: { sheet: WholeSheet }) {
  const { live, draft } = sheet.found;
  const ids = [...new Set([...live.page, ...draft.page])];
  if (ids.length === 0) return null;
  return (
    <section aria-label="Page" className="mt-4">
      <h3 className={HEADING}>Page</h3>
      <ul>
        {ids.map((id) => (
          <Found
            key={id}
            subject="page"
            id={id}
            state={!live.page.includes(id) ? "new" : draft.page.includes(id) ? "stays" : "fixed by the draft"}
          />
        ))}
      </ul>
    </section>
  );
}

function History({ history }: { history: readonly ItemHistory[] }) {
  return (
    <section aria-label="History" className="mt-4">
      <h3 className={HEADING}>Changes by runs</h3>
      {history.length === 0 && <p className="mt-1.5 text-soft">No run has changed this page yet</p>}
      <ol>
        {history.map((change) => (
          <li key={change.id} className="border-b border-hair py-1.5 text-[12.5px]">
            <p className="flex justify-between gap-2 text-soft">
              <Link
                href={`/runs/${change.run_id}`}
                className="underline decoration-hair underline-offset-4 hover:text-key"
              >
                Run {change.run_id}
                {change.type === "take-back" ? ", undo" : ""}: {change.text}
              </Link>
              <span title={when(change.run_at)}>
                {change.status === "applied" ? ago(change.run_at) : change.status}
              </span>
            </p>
            {change.text === "address" ? (
              <p className="break-words font-mono text-[12px]">
                <del className="text-faint">{change.path_before}</del> {change.path_after}
              </p>
            ) : (
              <p className="break-words">
                <del className="text-faint">{change.before || "nothing"}</del> {change.after}
              </p>
            )}
            {change.reason && <p className="text-magenta">{change.reason}</p>}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Fields({ fields }: { fields: Sheet["fields"] }) {
  const own = Object.entries(fields).filter(([name]) => !["site", "tagline", "sep"].includes(name));
  return (
    <section aria-label="Fields" className="mt-4">
      <h3 className={HEADING}>Fields</h3>
      <dl>
        {own.map(([name, value]) => (
          <div
            key={name}
            className="grid grid-cols-[110px_minmax(0,1fr)] gap-2 border-b border-hair py-1 text-[12.5px]"
          >
            <dt className="break-words font-mono text-[12px] text-soft">{name}</dt>
            <dd className="line-clamp-4 break-words">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** @example tooWideFor(site, "title", "Bronze …") // ", too wide for title on desktop results" */
function tooWideFor(site: Site, text: TextName, value: string): string {
  const { surfaces, chars } = limitsOf(site, text);
  const beyond = surfaces
    .filter((surface) => !fitsSurface(surface, value))
    .map(({ label }) => label.slice(0, 1).toLowerCase() + label.slice(1));
  if (chars !== null && charCount(value) > chars) beyond.push(`${chars} characters`);
  return `, too wide for ${beyond.join(", ")}`;
}

function Text({ sheet, site, text, side }: { sheet: Sheet; site: Site; text: TextName; side: Side }) {
  const own = sheet.texts[text];
  const value = own[side];
  const size = side === "live" ? own.liveSize : own.draftSize;
  const fits = side === "live" ? own.liveFits : own.draftFits;
  const found = sheet.found[side].texts[text];
  const before = new Set(sheet.found.live.texts[text].map(({ id }) => id));
  const ids = [...new Set(found.map(({ id }) => id))];
  const mended = [...before].filter((id) => !ids.includes(id));
  return (
    <div className="mt-1.5">
      <p className="flex justify-between text-[12px] text-soft">
        <span>{side === "live" ? "Live" : own.from === "hand" ? "By hand" : "Draft"}</span>
        <span className={fits ? "" : "text-magenta"}>
          {Math.round(size)} {text === "slug" ? "characters" : "px"}
          {fits || text === "slug" ? "" : tooWideFor(site, text, value)}
        </span>
      </p>
      <p className="break-words" style={{ fontFamily: text === "slug" ? "var(--font-mono)" : "var(--font-desktop)" }}>
        {value === "" ? <span className="text-magenta">Nothing</span> : <Marked text={value} found={found} />}
      </p>
      <ul>
        {ids.map((id) => (
          <Found
            key={id}
            subject={text}
            id={id}
            state={side === "live" ? undefined : before.has(id) ? "stays" : "new"}
          />
        ))}
      </ul>
      {side === "draft" && mended.length > 0 && (
        <p className="text-[12px] text-soft">
          Fixed: {mended.map((id) => findingKind(text, id).label.toLowerCase()).join(", ")}
        </p>
      )}
    </div>
  );
}

function Found({ subject, id, state }: { subject: TextName | "page"; id: FindingId; state?: string | undefined }) {
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
  const spans = found
    .filter(({ from, to }) => from !== null && to !== null && to > from)
    .map(({ from, to }) => ({ from: from!, to: to! }))
    .sort((a, b) => a.from - b.from);
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
