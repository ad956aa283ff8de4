"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRouter } from "../shell/site-path";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { type Site } from "../../core/design/design";
import { type Kind, type TextName } from "../../core/design/kinds";
import type { Comparison } from "../../server/bench/compare";
import { ChangePair } from "../proof/change-pair";
import { type roomOf } from "../../core/proof/site-room";
import { SLUG_CHARACTER } from "../proof/true-size";

const HEIGHT = 70;
const ORIGIN = 48;

/** The pages where two drafts differ, most first: the first draft's text above the second's, at true size. */
export function ComparedItems({
  kind,
  text,
  site,
  comparison,
  room,
  onMore,
}: {
  kind: Kind;
  text: TextName;
  site: Site;
  comparison: Comparison;
  room: ReturnType<typeof roomOf>;
  onMore: () => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(0);
  const router = useRouter();
  const { items, total } = comparison;
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => HEIGHT,
    overscan: 6,
  });
  const shown = virtual.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= items.length - 10 && items.length < total) onMore();
  }, [last, items.length, total, onMore]);
  const open = (index: number) => router.push(`/bench?kind=${kind}&text=${text}&pages=all&item=${items[index]!.id}`);
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (event.key === "Enter" && items[at]) open(at);
    else if (step !== undefined) {
      const next = Math.max(0, Math.min(items.length - 1, at + step));
      setAt(next);
      virtual.scrollToIndex(next, { align: "auto" });
    } else return;
    event.preventDefault();
  };
  if (total === 0) return <p className="p-6 text-soft">Both make the same {text} for every page.</p>;
  const scale = room.unit === "px" ? 1 : SLUG_CHARACTER;
  return (
    <div className="relative min-h-0 flex-1">
      <div
        ref={scroller}
        role="listbox"
        aria-label="Pages that differ, most first"
        aria-activedescendant={items[at] ? `differs-${items[at].id}` : undefined}
        tabIndex={0}
        onKeyDown={onKeyDown}
        className="h-full overflow-auto"
      >
        <div
          className="relative"
          role="presentation"
          style={{ height: virtual.getTotalSize(), minWidth: ORIGIN + room.width * scale + 90 }}
        >
          {shown.map(({ index, start }) => {
            const item = items[index]!;
            return (
              <div
                key={item.id}
                id={`differs-${item.id}`}
                role="option"
                aria-selected={index === at}
                aria-label={`${item.name}: ${item.a || "nothing"}; against ${item.b || "nothing"}`}
                onClick={() => setAt(index)}
                onDoubleClick={() => open(index)}
                className={`absolute left-0 top-0 w-full border-b border-hair ${index === at ? "bg-cyan-pale [--under:var(--cyan-pale)]" : ""}`}
                style={{ height: HEIGHT, transform: `translateY(${start}px)` }}
              >
                <ChangePair
                  equal
                  site={site}
                  change={{
                    text,
                    path: "",
                    before: item.a,
                    after: item.b,
                    beforeSize: item.aSize,
                    afterSize: item.bSize,
                    beforeFits: text === "slug" || item.aFits,
                    afterFits: text === "slug" || item.bFits,
                  }}
                />
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
