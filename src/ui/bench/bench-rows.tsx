"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import type { BenchRow, DrawnRow } from "../../server/bench/bench-row";
import { useKeptScroll } from "../shell/kept-scroll";
import { count } from "../shell/format";
import { type Axis } from "../proof/histogram";
import { TrueSizeText } from "../proof/true-size";
import { type LineOf, type RowProof } from "../../core/proof/row-proof";
import { PROVER } from "../proof/prover";
import { roomOf } from "../../core/proof/site-room";
import { useLater } from "../shell/later";

export const ROW_HEIGHT = 34;

/**
 * The set's rows at true size, virtual, chosen by mouse or arrow keys. They are drawn as the server proved them; while it proves what was just
 * typed, the browser does, so that a keystroke shows at once.
 */
export function BenchRows(props: {
  rows: ReadonlyMap<number, DrawnRow>;
  /** Whether the rows came as the lines make them that are looked at. */
  areCurrent: boolean;
  total: number;
  lineOf: LineOf;
  text: TextName;
  site: Site;
  axis: Axis;
  chosen: number | null;
  onChoose: (row: BenchRow) => void;
  onRange: (first: number, last: number) => void;
  resetKey: string;
}) {
  const { rows, areCurrent, total, lineOf, text, site, axis, chosen } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
    // As long as nobody knows how high the window is.
    initialRect: { width: 0, height: 5 * ROW_HEIGHT },
  });
  const shown = virtual.getVirtualItems();
  const first = shown[0]?.index ?? 0;
  const last = shown.at(-1)?.index ?? 0;
  const { onRange } = props;
  useEffect(() => onRange(first, last), [first, last, onRange]);
  // A row that is gone to before it has come is chosen when it is there.
  const [wanted, setWanted] = useState<number | null>(null);
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
    setWanted(null);
  }, [props.resetKey]);
  useKeptScroll("rows", scroller, total);

  const prover = useLater(PROVER, false);
  const proofs = useMemo(() => {
    const there = shown.flatMap(({ index }) => (rows.has(index) ? [rows.get(index)!] : []));
    const proved = areCurrent ? undefined : prover?.rowProverOf(site).prove(there, lineOf, text);
    const drawnOf = ({ drawn }: DrawnRow) => (drawn.of === text ? drawn : null);
    return new Map<number, RowProof | null>(there.map((row, i) => [row.id, proved?.[i] ?? drawnOf(row)]));
    // The rows on screen are named by their first and last.
  }, [prover, rows, areCurrent, first, last, lineOf, text, site]); // eslint-disable-line react-hooks/exhaustive-deps

  const room = roomOf(site, text);
  const placeOf = (id: number | null) => {
    for (const [index, row] of rows) if (row.id === id) return index;
    return -1;
  };
  const come = wanted === null ? undefined : rows.get(wanted);
  const { onChoose } = props;
  useEffect(() => {
    if (!come) return;
    setWanted(null);
    onChoose(come);
  }, [come, onChoose]);
  const moveTo = (index: number) => {
    const target = Math.max(0, Math.min(total - 1, index));
    virtual.scrollToIndex(target, { align: "auto" });
    const row = rows.get(target);
    setWanted(row ? null : target);
    if (row) props.onChoose(row);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const now = Math.max(0, placeOf(chosen));
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / ROW_HEIGHT) - 1);
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page }[event.key];
    if (step !== undefined) moveTo(placeOf(chosen) < 0 ? 0 : now + step);
    else if (event.key === "Home") moveTo(0);
    else if (event.key === "End") moveTo(total - 1);
    else return;
    event.preventDefault();
  };

  return (
    <div
      ref={scroller}
      role="listbox"
      aria-label={`Pages, ${count(total)} of them`}
      aria-activedescendant={chosen === null ? undefined : `row-${chosen}`}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="relative min-h-0 flex-1 overflow-auto bg-sheet"
    >
      <div
        style={{ height: virtual.getTotalSize(), minWidth: axis.origin + room.width * axis.scale + 40 }}
        className="relative"
        role="presentation"
      >
        {shown.map((item) => {
          const row = rows.get(item.index);
          const proof = row && proofs.get(row.id);
          return (
            <div
              key={item.index}
              role="option"
              id={row ? `row-${row.id}` : undefined}
              aria-selected={row !== undefined && row.id === chosen}
              aria-setsize={total}
              aria-posinset={item.index + 1}
              aria-label={proof ? `${proof.text || "nothing"}, ${sizeWords(row, proof, room.unit)}` : "loading"}
              onClick={() => row && props.onChoose(row)}
              className={`absolute left-0 top-0 w-full cursor-default border-b border-hair ${row && row.id === chosen ? "bg-cyan-pale" : "hover:bg-raised"}`}
              style={{ height: ROW_HEIGHT, transform: `translateY(${item.start}px)` }}
            >
              {proof ? (
                <Row row={row} proof={proof} axis={axis} room={room} />
              ) : (
                <span className="absolute top-3 h-2.5 w-64 bg-hair opacity-50" style={{ left: axis.origin }} />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function sizeWords(row: BenchRow, proof: RowProof, unit: "px" | "ch"): string {
  const words = [`${Math.round(proof.size)} ${unit === "px" ? "px" : "characters"}`];
  if (!proof.fits && proof.over > 0) words.push(`${Math.max(1, Math.round(proof.over))} too wide`);
  if (row.same > 1) words.push(`${row.same} read the same`);
  if (proof.from === "hand") words.push("by hand");
  return words.join(", ");
}

/** A slug whose words were cut from the right: within its limit now, and worth a look. */
function isShortened(proof: RowProof, room: { width: number; unit: "px" | "ch" }): boolean {
  return room.unit === "ch" && !proof.fits && proof.size <= room.width;
}

function Row({
  row,
  proof,
  axis,
  room,
}: {
  row: BenchRow;
  proof: RowProof;
  axis: Axis;
  room: ReturnType<typeof roomOf>;
}) {
  return (
    <>
      <span
        className="narrow absolute left-0 flex h-full items-center justify-end gap-1.5 whitespace-nowrap pr-4 text-[12px] text-soft"
        style={{ width: axis.origin - 14 }}
      >
        {proof.from === "hand" && (
          <span className="text-faint" title="Written by hand">
            hand
          </span>
        )}
        {proof.text === "" ? (
          <span className="text-magenta">missing</span>
        ) : isShortened(proof, room) ? (
          <span>
            cut to <b>{Math.round(proof.size)}</b>
          </span>
        ) : !proof.fits ? (
          <span className="font-bold text-magenta">+{Math.max(1, Math.round(proof.over))}</span>
        ) : (
          <span>{Math.round(proof.size)}</span>
        )}
      </span>
      {row.same > 1 && (
        <span
          aria-hidden="true"
          title={`${row.same} pages read the same`}
          className="absolute top-2 flex h-[18px] gap-[3px]"
          style={{ left: axis.origin - 14 }}
        >
          <i className="w-[2px] bg-magenta" />
          <i className="w-[2px] bg-magenta" />
        </span>
      )}
      <span className="absolute h-full" style={{ left: axis.origin, lineHeight: `${ROW_HEIGHT - 1}px` }}>
        {proof.text === "" ? (
          <span className="mt-[7px] inline-block h-5 w-40 border border-dashed border-magenta" />
        ) : (
          <TrueSizeText
            text={proof.text}
            size={proof.size}
            limit={room.width}
            fits={proof.fits}
            scale={axis.scale}
            surface={room.surface}
            keyword={proof.keyword && proof.keyword.char !== null && proof.keyword.count > 0 ? proof.keyword : null}
          />
        )}
      </span>
    </>
  );
}
