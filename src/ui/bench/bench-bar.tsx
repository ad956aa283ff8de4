"use client";
import { useRouter } from "../shell/site-path";
import { toast } from "sonner";
import { type Kind } from "../../core/design/kinds";
import { type WorkProgress } from "../../server/workspace/watch";
import { BAR_ACTION, MAIN_ACTION } from "../shell/actions";
import type { SaveState } from "../shell/draft-saver";
import { counted } from "../shell/format";
import { BarSlot } from "../shell/shell";
import { hasUnkept, useSite, useKindWord } from "../shell/site-context";
import { progressLine } from "../shell/progress-words";
import { DraftsMenu } from "./drafts-menu";

/** How far the proof is, where the draft stands, and where it goes from here. */
export function BenchBar({
  kind,
  saved,
  changes,
  loading,
  progress,
  words,
}: {
  kind: Kind;
  saved: SaveState;
  /** How many texts the draft changes. */
  changes: number;
  loading: boolean;
  progress: WorkProgress | null;
  /** What is said where nothing is under way. */
  words: string;
}) {
  const kindWord = useKindWord();
  const router = useRouter();
  const { state, keep } = useSite();
  const isKept = !hasUnkept(state, kind) && saved === "stored";
  return (
    <BarSlot>
      <BarState
        loading={loading}
        progress={progress}
        words={words}
        draft={isKept ? "Kept" : SAVE_WORDS[saved]}
        saved={saved}
      />
      <DraftsMenu kind={kind} />
      <button
        type="button"
        className={BAR_ACTION}
        disabled={isKept}
        onClick={() => void keep(kind).then(() => toast(`Draft for ${kindWord(kind, 2)} kept`))}
      >
        Keep draft
      </button>
      <button type="button" className={MAIN_ACTION} disabled={changes === 0} onClick={() => router.push("/review")}>
        Review {counted(changes, "change", "changes")}
      </button>
    </BarSlot>
  );
}

/** Where a draft stands, in words. */
const SAVE_WORDS: Record<SaveState, string> = {
  stored: "Draft stored, not kept",
  saving: "Draft changes …",
  offline: "Not stored: the server does not answer; kept in this window",
  refused: "Not stored",
  conflict: "Not stored: changed in another window",
};

function BarState({
  loading,
  progress,
  words,
  draft,
  saved,
}: {
  loading: boolean;
  progress: WorkProgress | null;
  words: string;
  draft: string;
  saved: SaveState;
}) {
  const { state } = useSite();
  const share = progress ? Math.round(progress.share * 100) : 0;
  return (
    <>
      <span className="narrow min-w-0 truncate text-[12px] text-bar-soft" role="status" data-draft={saved}>
        {progress ? progressLine(state.site, progress) : loading ? "Proving …" : words}
        <span className="mx-2">·</span>
        {draft}
      </span>
      {progress && (
        <span aria-hidden="true" className="fixed left-0 right-0 top-11 z-30 h-[3px]">
          <span className="block h-full bg-rule" style={{ width: `${share}%` }} />
        </span>
      )}
    </>
  );
}
