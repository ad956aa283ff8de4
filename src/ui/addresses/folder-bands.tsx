"use client";
import type { FolderFlow, FolderNode } from "../../core/addresses/folder-flows";
import { count } from "../shell/format";

const WIDTH = 404;
/** Where the folders before and after stand on the drawing, in px. */
const LEFT = 156;
const RIGHT = 248;
const BAR = 4;
const GAP = 12;
/** Two lines of words have room beside the smallest folder. */
const LEAST = 34;
/** All folders together are about so high. */
const ROOM = 380;

interface Slot extends FolderNode {
  readonly top: number;
  readonly height: number;
  readonly scale: number;
}

/** Folders on one axis, each as it is and as it will be, with what goes from one to the other as bands between them. */
export function FolderBands({
  nodes,
  flows,
  within,
  onFolder,
}: {
  nodes: readonly FolderNode[];
  flows: readonly FolderFlow[];
  within: string;
  onFolder: (folder: string) => void;
}) {
  const slots = slotsOf(nodes);
  const end = slots.at(-1);
  const height = end ? end.top + end.height + GAP : 0;
  const bands = bandsOf(slots, flows);
  return (
    <svg
      width="100%"
      viewBox={`0 0 ${WIDTH} ${height}`}
      style={{ maxWidth: WIDTH * 1.1 }}
      role="group"
      aria-label="Folders now and after"
    >
      {bands.map(({ key, path, what }) => (
        <path
          key={key}
          d={path}
          className={BAND_CLASSES[what]}
          strokeDasharray={what === "stays" ? "2 3" : undefined}
        />
      ))}
      {slots.map((slot) => (
        <Folder key={slot.folder} slot={slot} within={within} onFolder={onFolder} />
      ))}
    </svg>
  );
}

function Folder({ slot, within, onFolder }: { slot: Slot; within: string; onFolder: (folder: string) => void }) {
  const { folder, before, after, top, scale } = slot;
  const isOwn = folder === within;
  const name = isOwn ? "(in itself)" : `/${folder.slice(within.length).replace(/\/$/, "")}`;
  const shown = name.length > 21 ? `${name.slice(0, 20)}…` : name;
  const open = () => !isOwn && onFolder(folder);
  const words = (x: number, anchor: "start" | "end", pages: number) => (
    <>
      <text x={x} y={top + 12} textAnchor={anchor} className="fill-key font-mono text-[11.5px]">
        {shown}
      </text>
      <text x={x} y={top + 27} textAnchor={anchor} className="fill-soft text-[11.5px]">
        {count(pages)}
      </text>
    </>
  );
  return (
    <g
      role={isOwn ? undefined : "button"}
      tabIndex={isOwn ? undefined : 0}
      aria-label={isOwn ? undefined : `${folder}: ${count(before)} pages now, ${count(after)} after`}
      className={isOwn ? "" : "cursor-pointer hover:underline"}
      onClick={open}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        open();
      }}
    >
      <title>{folder}</title>
      <rect x={0} y={top} width={WIDTH} height={slot.height} className="fill-transparent" />
      {before > 0 && (
        <>
          <rect x={LEFT} y={top} width={BAR} height={Math.max(2, before * scale)} className="fill-key" />
          {words(LEFT - 8, "end", before)}
        </>
      )}
      {after > 0 && (
        <>
          <rect x={RIGHT - BAR} y={top} width={BAR} height={Math.max(2, after * scale)} className="fill-key" />
          {words(RIGHT + 8, "start", after)}
        </>
      )}
    </g>
  );
}

/** Each folder has one place for both sides, as high as the larger of them. */
function slotsOf(nodes: readonly FolderNode[]): Slot[] {
  const most = nodes.reduce((sum, { before, after }) => sum + Math.max(before, after), 0);
  const scale = most === 0 ? 0 : Math.max(0, ROOM - nodes.length * GAP) / most;
  let top = 2;
  return nodes.map((node) => {
    const height = Math.max(LEAST, Math.max(node.before, node.after) * scale);
    const slot = { ...node, top, height, scale };
    top += height + GAP;
    return slot;
  });
}

interface Band {
  readonly key: string;
  readonly path: string;
  readonly what: "crosses" | "within" | "stays";
}

/** What goes to another folder, gets another address within its own, or stays. */
const BAND_CLASSES: Record<Band["what"], string> = {
  crosses: "fill-rule opacity-40",
  within: "fill-hair",
  stays: "fill-transparent stroke-hair",
};

/** What stays lies flat within a folder's place, what moves crosses over; what comes from elsewhere or goes there ends half-way. */
function bandsOf(slots: readonly Slot[], flows: readonly FolderFlow[]): Band[] {
  const placeOf = new Map(slots.map((slot) => [slot.folder, slot]));
  const used = { from: new Map<string, number>(), to: new Map<string, number>() };
  const take = (side: "from" | "to", folder: string, height: number): number => {
    const at = used[side].get(folder) ?? 0;
    used[side].set(folder, at + height);
    return placeOf.get(folder)!.top + at;
  };
  return flows.flatMap(({ from, to, pages, moving }): Band[] => {
    const scale = (placeOf.get(from) ?? placeOf.get(to))!.scale;
    const height = Math.max(1, pages * scale);
    const y1 = placeOf.has(from) ? take("from", from, height) : null;
    const y2 = placeOf.has(to) ? take("to", to, height) : null;
    const middle = (LEFT + BAR + RIGHT - BAR) / 2;
    const [x1, x2] = [y1 === null ? middle : LEFT + BAR, y2 === null ? middle : RIGHT - BAR];
    const [a, b] = [y1 ?? y2!, y2 ?? y1!];
    const path = `M${x1},${a} C${middle},${a} ${middle},${b} ${x2},${b} L${x2},${b + height} C${middle},${b + height} ${middle},${a + height} ${x1},${a + height} Z`;
    const what = from !== to ? "crosses" : moving > 0 ? "within" : "stays";
    return [{ key: `${from} ${to}`, path, what }];
  });
}
