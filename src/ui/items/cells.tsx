"use client";
import { type ListedItem } from "../../server/items/listed-item";
import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { type Side, type Subject } from "../../core/checks/findings";
import { type Prover } from "../proof/prover";
import { roomOf } from "../../core/proof/site-room";
import { SLUG_CHARACTER, TrueSizeText } from "../proof/true-size";
import { findingKind, SUBJECT_LABELS } from "./findings-panel";
import { type Look } from "./items-url";

/** What a cell is drawn from. */
export interface CellView {
  readonly item: ListedItem;
  readonly side: Side;
  readonly look: Look;
  readonly site: Site;
  /** What finds a keyword in a text that is drawn at true size; `null` until it is there. */
  readonly prover: Prover | null;
}

export function NameCell({ item }: CellView) {
  return (
    <>
      <span className="block truncate font-semibold">{item.name || "A page without a name"}</span>
      <span className="narrow block truncate text-[12px] text-soft">{item.path}</span>
    </>
  );
}

export function KeywordCell({ item }: CellView) {
  return item.keyword === "" ? (
    <span className="text-faint">none</span>
  ) : (
    <mark className="marker box-decoration-clone px-0.5 text-inherit">{item.keyword}</mark>
  );
}

export function FindingsCell({ item, side }: CellView) {
  return <span className="narrow line-clamp-3 text-[12px] leading-snug text-soft">{findingsInWords(item, side)}</span>;
}

export function FieldCell({ item, name }: CellView & { name: string }) {
  return (
    <span className="line-clamp-3 leading-snug">{item.fields[name] ?? <span className="text-faint">–</span>}</span>
  );
}

/** A text of a page, on the site above the drafts: as it reads, or at true size. */
export function TextCell({ text, ...view }: CellView & { text: TextName }) {
  return view.look === "size" ? <SizedText text={text} {...view} /> : <PlainText text={text} {...view} />;
}

/** What was found on a page, in a sentence for each subject. */
export function findingsInWords(item: ListedItem, side: Side): string {
  const found = item.findings[side];
  return found.length === 0 ? "In order" : inWords(found);
}

/** @example inWords([{ subject: "title", id: "too-wide" }]) // "Title: too wide." */
function inWords(found: ListedItem["findings"][Side]): string {
  const bySubject = new Map<Subject, string[]>();
  for (const { subject, id } of found)
    bySubject.set(subject, [
      ...(bySubject.get(subject) ?? []),
      findingKind(subject, id).label.toLowerCase().replace("h1", "H1"),
    ]);
  return [...bySubject].map(([subject, labels]) => `${SUBJECT_LABELS[subject]}: ${labels.join(", ")}.`).join(" ");
}

function PlainText({ item, text, side }: CellView & { text: TextName }) {
  const own = item.texts[text];
  const font = text === "slug" ? "font-mono text-[12.5px]" : "font-[family-name:var(--font-desktop)]";
  const line = (value: string, size: number, fits: boolean, faint: boolean, hand: boolean) => (
    <span className="flex items-baseline gap-2">
      <span
        className={`narrow w-8 shrink-0 text-right text-[12px] ${fits ? "text-faint" : "font-semibold text-magenta"}`}
      >
        {value === "" ? "–" : Math.round(size)}
      </span>
      <span className={`min-w-0 truncate ${font} ${faint ? "text-faint" : ""}`}>
        {value === "" ? <span className="text-magenta">no {text}</span> : value}
      </span>
      {hand && <ByHand />}
    </span>
  );
  return (
    <>
      {line(own.live, own.liveSize, own.liveFits, side === "draft", own.from === "hand" && own.draft === own.live)}
      {own.draft !== own.live && line(own.draft, own.draftSize, own.draftFits, side === "live", own.from === "hand")}
    </>
  );
}

function SizedText({ item, text, side, site, prover }: CellView & { text: TextName }) {
  const own = item.texts[text];
  const { surface, width, unit } = roomOf(site, text);
  const scale = unit === "px" ? 1 : SLUG_CHARACTER;
  const line = (value: string, size: number, fits: boolean, muted: boolean, hand: boolean) => (
    <span className="relative block h-[30px] overflow-hidden whitespace-nowrap leading-[28px]">
      {value === "" ? (
        <span
          aria-label={`no ${text}`}
          className="inline-block h-5 w-40 border border-dashed border-magenta align-middle"
        />
      ) : (
        <TrueSizeText
          text={value}
          size={size}
          limit={width}
          fits={fits}
          scale={scale}
          surface={surface}
          muted={muted}
          keyword={muted || !prover ? null : prover.drawnKeyword(site, item.keyword, value, surface, text === "slug")}
        />
      )}
      <span
        className={`narrow absolute right-0 top-0 w-[92px] bg-gradient-to-r from-transparent to-[var(--under,var(--sheet))] to-30% text-right text-[12px] ${fits ? "text-faint" : "font-semibold text-magenta"}`}
      >
        {Math.round(size)} {unit} {hand && <ByHand />}
      </span>
    </span>
  );
  return (
    <span className="relative block h-full">
      <span aria-hidden="true" className="absolute inset-y-[-6px] w-[1.5px] bg-rule" style={{ left: width * scale }} />
      {line(own.live, own.liveSize, own.liveFits, side === "draft", own.from === "hand" && own.draft === own.live)}
      {own.draft !== own.live && line(own.draft, own.draftSize, own.draftFits, side === "live", own.from === "hand")}
    </span>
  );
}

export function RobotsCell({ item, side }: CellView) {
  const { live, draft, from, rule } = item.robots;
  return (
    <span className="block leading-snug">
      <span className={`block ${side === "draft" && draft !== live ? "text-faint" : ""}`}>{live}</span>
      {draft !== live && <span className={`block ${side === "live" ? "text-faint" : ""}`}>{draft}</span>}
      {from !== "live" && (
        <span className="narrow block truncate text-[12px] text-soft">
          {from === "hand" ? "by hand" : from === "rule" ? `by “${rule}”` : "by the base"}
        </span>
      )}
    </span>
  );
}

function ByHand() {
  return (
    <span className="narrow shrink-0 rounded-sm border border-hair px-1 font-sans text-[11px] leading-tight text-soft">
      hand
    </span>
  );
}
