"use client";
import { useEffect, useState } from "react";
import type { ReviewSummary } from "../../server/review/review-summary";
import { PLAIN_ACTION } from "../shell/actions";
import { counted } from "../shell/format";
import { Later, useLater } from "../shell/later";
import { Tick } from "../shell/tick";

const DIALOG = new Later(() => import("./moves-dialog"));

/** While bodies are being read the review is asked for again so often, in ms. */
const ASK_AGAIN = 1500;

/** @example alongWords({ count: 12, canonicals: 2 }) // "10 links and 2 canonicals" */
function alongWords({ count: all, canonicals }: NonNullable<ReviewSummary["links"]>): string {
  return [
    ...(all > canonicals ? [counted(all - canonicals, "link", "links")] : []),
    ...(canonicals > 0 ? [counted(canonicals, "canonical", "canonicals")] : []),
  ].join(" and ");
}

/** What the moves that are included bring along: links that can follow them, and redirects. */
export function MovesAlong({
  summary: { moves, links, followsLinks },
  stamp,
  onFollow,
  onAgain,
}: {
  summary: ReviewSummary;
  stamp: string;
  onFollow: (follows: boolean) => void;
  /** Asks for the review again: bodies were being read. */
  onAgain: () => void;
}) {
  const [isOpen, setOpen] = useState(false);
  const dialog = useLater(DIALOG, isOpen);
  const isReading = links === null && moves > 0;
  useEffect(() => {
    if (!isReading) return;
    const timer = setTimeout(onAgain, ASK_AGAIN);
    return () => clearTimeout(timer);
  }, [isReading, onAgain, stamp]);
  if (moves === 0) return null;
  const many = links?.count ?? 0;
  return (
    <div className="mb-2 border-l-4 border-rule bg-sheet px-3 py-2">
      <p className="font-semibold">{counted(moves, "address moves", "addresses move")}</p>
      {many > 0 && (
        <label className="mt-1 flex items-start gap-2">
          <Tick checked={followsLinks} label="Rewrite the links, too" onChange={onFollow} />
          <span className="min-w-0 leading-snug">
            Rewrite the {alongWords(links!)} to them, too
            <span className="narrow block text-[12px] text-soft">on {counted(links!.pages, "page", "pages")}</span>
          </span>
        </label>
      )}
      <p className="narrow mt-1 text-[12px] text-soft" role="status">
        {links === null && "Bodies are being read for links to them …"}
        {links !== null && many === 0 && "No link in a body leads to them."}
      </p>
      <button type="button" className={`${PLAIN_ACTION} mt-1`} onClick={() => setOpen(true)}>
        Redirects and links …
      </button>
      {isOpen && dialog && (
        <dialog.MovesDialog stamp={stamp} followsLinks={followsLinks} onClose={() => setOpen(false)} />
      )}
    </div>
  );
}
