"use client";
import { type ListedItem } from "../../server/items/listed-item";
import { type ReactNode } from "react";
import { type Subject } from "../../core/checks/findings";
import { type Site } from "../../core/design/design";
import { kindWord, type TextName, TEXTS } from "../../core/design/kinds";
import { type Side } from "../../core/checks/findings";
import { drawnKeyword, roomOf } from "../proof/local-proof";
import { SLUG_CHARACTER, TrueSizeText } from "../proof/true-size";
import { findingKind, SUBJECT_LABELS } from "./findings-panel";
import { type Look } from "./items-url";

/** What a cell of the list shows. */
export function Cell({
  item,
  column,
  side,
  look,
  site,
}: {
  item: ListedItem;
  column: string;
  side: Side;
  look: Look;
  site: Site;
}): ReactNode {
  if ((TEXTS as readonly string[]).includes(column)) {
    const text = column as TextName;
    return look === "size" ? (
      <SizedText item={item} text={text} side={side} site={site} />
    ) : (
      <PlainText item={item} text={text} side={side} />
    );
  }
  switch (column) {
    case "name":
      return (
        <>
          <span className="block truncate font-semibold">{item.name || "A page without a name"}</span>
          <span className="narrow block truncate text-[12px] text-soft">{item.path}</span>
        </>
      );
    case "kind":
      return <span className="text-soft">{kindWord(item.kind, 1)}</span>;
    case "keyword":
      return item.keyword === "" ? (
        <span className="text-faint">none</span>
      ) : (
        <mark className="marker box-decoration-clone px-0.5 text-inherit">{item.keyword}</mark>
      );
    case "robots":
      return <Robots item={item} side={side} />;
    case "findings":
      return (
        <span className="narrow line-clamp-3 text-[12px] leading-snug text-soft">
          {item.findings[side].length === 0 ? "In order" : inWords(item.findings[side])}
        </span>
      );
    default:
      return (
        <span className="line-clamp-3 leading-snug">
          {item.fields[column.slice(6)] ?? <span className="text-faint">–</span>}
        </span>
      );
  }
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

function PlainText({ item, text, side }: { item: ListedItem; text: TextName; side: Side }) {
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

function SizedText({ item, text, side, site }: { item: ListedItem; text: TextName; side: Side; site: Site }) {
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
          keyword={muted ? null : drawnKeyword(site, item.keyword, value, surface, text === "slug")}
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

function Robots({ item, side }: { item: ListedItem; side: Side }) {
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
