"use client";
import { type ProvedKind } from "../../server/bench/bench-desk";
import { type RefObject, useEffect, useRef } from "react";
import { type TextName } from "../../core/design/kinds";
import { type Line } from "../../core/lines/ast";
import { MOST_CHARACTERS } from "../../core/lines/filters";
import { emptyFieldsOf } from "../../core/lines/empty-fields";
import { fieldsOfNodes } from "../../core/lines/field-names";
import { readingOf } from "../../core/lines/reading";
import { type Filter } from "../../core/proof/row-views";
import { type PieceShare } from "../../core/proof/piece-shares";
import type { FieldInfo } from "../../server/bench/field-infos";
import { count, counted } from "../shell/format";
import { LineEditor } from "../line-editor/line-editor";
import { Term } from "../shell/term";

export const TEXT_LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };

/** One of the three lines with its figures; beneath the one in hand, its reading and how often each of its pieces stands. */
export function LineRow(props: {
  name: TextName;
  active: boolean;
  last: boolean;
  line: Line | null;
  value: string;
  placeholder: string;
  fields: readonly FieldInfo[];
  proved: ProvedKind | null;
  onChange: (value: string) => void;
  onOpen: (filter?: Filter) => void;
  onUndo: () => void;
  onRedo: () => void;
  insertAt: RefObject<((text: string, cursor?: number) => void) | null>;
}) {
  const { name, line, proved, active } = props;
  const text = proved?.texts[name];
  const figures = text && (text.part ?? text).draft;
  const error = line?.errors[0];
  const under = useRef<HTMLDivElement>(null);
  const height = useRef(0);
  const isFaulty = useRef(false);
  isFaulty.current = error !== undefined;
  useEffect(() => {
    // Watched rather than asked for: asking makes the browser lay everything out at each letter.
    const observer = new ResizeObserver(([entry]) => {
      if (!isFaulty.current) height.current = entry!.contentRect.height;
    });
    observer.observe(under.current!);
    return () => observer.disconnect();
  }, []);
  const figure = (value: number, label: string, filter: Filter, needsPerson: boolean) => (
    <button
      type="button"
      key={label}
      onClick={() => props.onOpen(filter)}
      className="narrow whitespace-nowrap hover:underline"
      data-figure={`${name}-${filter}`}
    >
      <b className={needsPerson && value > 0 ? "text-magenta" : ""}>{count(value)}</b>{" "}
      <span className="text-soft">{label}</span>
    </button>
  );
  return (
    <div className={`py-1 ${active ? "" : "line-idle"} ${props.last ? "" : "border-b border-hair"}`}>
      <div className="flex items-start gap-3 small:flex-wrap">
        <button
          type="button"
          aria-pressed={active}
          onClick={() => props.onOpen()}
          className={`w-[74px] shrink-0 pt-1 text-left font-semibold ${active ? "text-key underline decoration-rule decoration-2 underline-offset-4" : "text-soft"}`}
        >
          {TEXT_LABELS[name]}
        </button>
        <div className="min-w-0 flex-1 small:order-3 small:w-full small:flex-none">
          <LineEditor
            label={`${TEXT_LABELS[name]} line`}
            value={props.value}
            fields={props.fields}
            onChange={props.onChange}
            onChoose={active ? undefined : () => props.onOpen()}
            onUndo={props.onUndo}
            onRedo={props.onRedo}
            invalid={error !== undefined}
            describedBy={`error-${name}`}
            placeholder={props.placeholder}
            insertAt={active ? props.insertAt : undefined}
          />
        </div>
        <div
          className={`flex min-w-[180px] shrink-0 justify-end gap-3 pt-1 text-[12.5px] small:min-h-[26px] small:justify-start ${error ? "[&_*]:!text-soft" : ""}`}
          title={error && "Figures of the line as it was before the error"}
        >
          {figures &&
            (name === "slug"
              ? [
                  figure(figures.changed, "move", "changed", false),
                  figure(figures.duplicates, "clash", "duplicate", true),
                ]
              : [
                  ...(figures.missing > 0 ? [figure(figures.missing, "missing", "missing", true)] : []),
                  figure(figures.tooWide, "too wide", "too-wide", true),
                  figure(figures.duplicates, "duplicates", "duplicate", true),
                ])}
        </div>
      </div>
      {/* An error stands where the reading does, and takes its place: what is below stays where it is. */}
      <div ref={under} className="ml-[86px] small:ml-0" style={error ? { minHeight: height.current } : undefined}>
        <p id={`error-${name}`} className="text-[12px] text-magenta" role="status">
          {error && (
            <>
              {error.message}.{" "}
              <span className="text-soft">At character {error.from + 1}; a line with an error is never applied.</span>
            </>
          )}
        </p>
        {active && line && error === undefined && line.nodes.length > 0 && (
          <Reading line={line} fields={props.fields} pieces={proved?.pieces ?? null} unread={proved?.unread ?? []} />
        )}
      </div>
    </div>
  );
}

const UNREAD_WORDS = {
  number: "is no number on",
  day: "is no date on",
  length: "gets too many characters on",
} as const;

function Unread({ field, reads, count: pages, examples }: ProvedKind["unread"][number]) {
  const many = counted(pages, "page", "pages");
  if (reads === "text")
    return `The line makes more than ${count(MOST_CHARACTERS)} characters on ${many}, and nothing is written there`;
  return (
    <>
      <span className="font-mono text-[11px]">{field}</span> {UNREAD_WORDS[reads]} {many}, and is left empty there:{" "}
      {examples.map((own) => `“${own}”`).join(", ")}
    </>
  );
}

/** So many fields are named that could be used instead. */
const MOST_INSTEAD = 3;

/** Fields of the line that no page of the kind has, and those that most have. */
function EmptyFields({ line, fields }: { line: Line; fields: readonly FieldInfo[] }) {
  const filled = new Map(fields.map((field) => [field.name, field.filled]));
  const empty = emptyFieldsOf(line.nodes, (field) => filled.get(field));
  // Of a kind without pages nothing is said.
  if (empty.length === 0 || !fields.some((field) => field.filled > 0)) return null;
  const used = fieldsOfNodes(line.nodes);
  const instead = fields
    .filter((field) => field.type === "text" && field.filled >= 0.5 && field.distinct > 1 && !used.includes(field.name))
    .sort((a, b) => b.filled - a.filled)
    .slice(0, MOST_INSTEAD)
    .map((field) => `{${field.name}}`);
  return (
    <p className="truncate text-[12px] text-magenta">
      <span className="font-mono text-[11px]">
        {empty.map(({ from, to }) => line.source.slice(from, to)).join(", ")}
      </span>{" "}
      {empty.length === 1 ? "is" : "are"} empty on every page of this kind
      {instead.length > 0 && (
        <span className="text-soft">
          ; most pages have <span className="font-mono text-[11px]">{instead.join(", ")}</span>
        </span>
      )}
    </p>
  );
}

function Reading({
  line,
  fields,
  pieces,
  unread,
}: {
  line: Line;
  fields: readonly FieldInfo[];
  pieces: ProvedKind["pieces"];
  unread: ProvedKind["unread"];
}) {
  const reading = readingOf(line.nodes);
  const shares = pieces?.pieces.filter(({ piece, from, to }) => line.source.slice(from, to) === piece) ?? [];
  return (
    <div className="pb-0.5">
      <p className="truncate text-[12px] text-soft" title={reading}>
        Reads: {reading}
      </p>
      <EmptyFields line={line} fields={fields} />
      {unread.map((own) => (
        <p key={own.field} className="truncate text-[12px] text-magenta">
          <Unread {...own} />
        </p>
      ))}
      {(shares.length > 0 || (pieces === null && hasPiece(line.nodes))) && (
        <div className="mt-0.5 flex items-center gap-x-4 text-[12px] text-soft">
          <Term of="piece">Pieces</Term>
          <ul
            aria-label="How often each piece is used"
            tabIndex={0}
            className="flex min-w-0 flex-1 gap-x-4 overflow-x-auto whitespace-nowrap pr-6 [mask-image:linear-gradient(to_right,#000_calc(100%-24px),transparent)] [scrollbar-width:none]"
          >
            {shares.map((share) => (
              <Piece key={share.from} share={share} items={pieces!.items} />
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

function hasPiece(nodes: Line["nodes"]): boolean {
  return nodes.some(({ type }) => type === "piece");
}

function Piece({ share, items }: { share: PieceShare; items: number }) {
  const part = items === 0 ? 0 : share.stands / items;
  const words =
    items === 0
      ? "no page"
      : share.stands === 0
        ? "never used"
        : share.stands === items
          ? "on all"
          : part < 0.01
            ? `on ${count(share.stands)}`
            : `on ${Math.min(99, Math.round(part * 100))} %`;
  const choices =
    share.byAlternative.length > 1
      ? `; ${share.byAlternative.map((n, i) => `choice ${i + 1} on ${count(n)}`).join(", ")}`
      : "";
  return (
    <li
      className="flex items-center gap-1.5 text-[12px]"
      title={`${share.piece} used on ${count(share.stands)} of ${count(items)}${choices}`}
    >
      <span className="max-w-40 truncate font-mono text-[11px] text-soft">{share.piece}</span>
      <span aria-hidden="true" className="flex h-[5px] w-12 bg-hair">
        {share.byAlternative.map((n, i) => (
          <span
            key={i}
            className={`h-full ${i % 2 === 0 ? "bg-key" : "bg-faint"}`}
            style={{ width: `${items === 0 ? 0 : (n / items) * 100}%` }}
          />
        ))}
      </span>
      <span className={share.stands === 0 ? "text-magenta" : "text-soft"}>{words}</span>
    </li>
  );
}
