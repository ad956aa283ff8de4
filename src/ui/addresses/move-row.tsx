"use client";
import { wordChanges } from "../../core/proof/word-changes";
import type { ListedMove } from "../../server/review/moves-view";
import { MarkedText } from "../proof/marked-text";
import { costWords } from "../review/review-words";
import Link from "../shell/link";
import { Tick } from "../shell/tick";

const REASON_WORDS: Record<ListedMove["reason"], string> = {
  slug: "slug line",
  hand: "slug by hand",
  address: "address line",
  "slug-and-address": "slug and address lines",
  "hand-and-address": "slug by hand, address line",
  along: "moves along with its folder",
  clash: "another page would be there",
  below: "a page above it cannot move",
  reserved: "the site uses that address",
};

const PATH = "block truncate font-mono text-[12.5px] leading-[21px]";

/** The old path above the new one, what differs marked; why it moves, and what the move costs. */
export function MoveRow({ move, onTick }: { move: ListedMove; onTick: (included: boolean) => void }) {
  const { id, kind, name, from, to, reason, isHeld, included, cost } = move;
  const changes = wordChanges(from, to);
  return (
    <div className="grid h-full grid-cols-[15px_minmax(0,1fr)_minmax(0,246px)] items-center gap-4 px-5">
      <Tick
        checked={included}
        disabled={isHeld || reason === "along"}
        label={`Include: ${name} to ${to}`}
        onChange={onTick}
      />
      <span className="min-w-0">
        <span className={`${PATH} text-soft`} title={from}>
          {from === "" ? "no address yet" : <MarkedText stretches={changes.before} as="goes" />}
        </span>
        <span className={`${PATH} ${isHeld ? "text-magenta" : ""}`} title={to}>
          <MarkedText stretches={changes.after} as="comes" />
        </span>
      </span>
      <span className="narrow text-right text-[12px] leading-[17px]">
        <Link
          href={`/pages?item=${kind}-${id}`}
          className="block truncate underline decoration-hair underline-offset-4 hover:decoration-key"
        >
          {name || "A page without a name"}
        </Link>
        <span className={isHeld ? "font-semibold text-magenta" : "text-soft"}>
          {REASON_WORDS[reason]}
          {!isHeld && cost && <> · {costWords(cost) || "no link or redirect leads here"}</>}
        </span>
      </span>
    </div>
  );
}
