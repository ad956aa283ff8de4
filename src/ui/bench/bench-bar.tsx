"use client";
import { useRouter } from "../shell/site-path";
import { type KindDesign } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import { type WorkProgress } from "../../server/workspace/watch";
import { MAIN_ACTION } from "../shell/actions";
import type { SaveState } from "../shell/draft-saver";
import { counted } from "../shell/format";
import { BarStatus } from "../shell/bar-status";
import { BarSlot } from "../shell/shell";
import { type Changed, countOf, liveDifference } from "../shell/live-difference";
import { useSite } from "../shell/site-context";
import { progressLine } from "../shell/progress-words";
import { VersionsMenu } from "./versions-menu";

/** How far the proof is, where the draft stands, and where it goes from here. */
export function BenchBar({
  kind,
  design,
  saved,
  changed,
  loading,
  progress,
  words,
}: {
  kind: Kind;
  /** The draft as it is typed. */
  design: KindDesign;
  saved: SaveState;
  /** How many of each text the draft changes; `null` until it is known. */
  changed: Changed | null;
  loading: boolean;
  progress: WorkProgress | null;
  /** How many pages were checked, and how fast. */
  words: string;
}) {
  const router = useRouter();
  const changes = changed === null ? 0 : countOf(changed);
  return (
    <BarSlot>
      <BarState
        loading={loading}
        progress={progress}
        draft={saved !== "stored" ? SAVE_WORDS[saved] : changed === null || loading ? null : liveDifference(changed)}
        figures={words}
        saved={saved}
      />
      <VersionsMenu kind={kind} design={design} />
      <button type="button" className={MAIN_ACTION} disabled={changes === 0} onClick={() => router.push("/review")}>
        Review {counted(changes, "change", "changes")}
      </button>
    </BarSlot>
  );
}

/** Why a draft is not saved. */
const SAVE_WORDS: Record<Exclude<SaveState, "stored">, string> = {
  saving: "Saving …",
  offline: "Not saved: the server does not answer. Your changes are kept in this window",
  refused: "Not saved",
  conflict: "Not saved: changed in another window",
};

function BarState({
  loading,
  progress,
  figures,
  draft,
  saved,
}: {
  loading: boolean;
  progress: WorkProgress | null;
  figures: string;
  /** Where the draft stands; `null` while that is not known. */
  draft: string | null;
  saved: SaveState;
}) {
  const { state } = useSite();
  const busy = progress ? progressLine(state.site, progress) : loading ? "Checking …" : null;
  const share = progress ? Math.round(progress.share * 100) : 0;
  return (
    <>
      <BarStatus isLong saved={saved} title={figures}>
        {busy}
        {busy !== null && draft !== null && <span className="mx-2">·</span>}
        {draft}
      </BarStatus>
      {progress && (
        <span aria-hidden="true" className="fixed left-0 right-0 top-11 z-30 h-[3px]">
          <span className="block h-full bg-rule" style={{ width: `${share}%` }} />
        </span>
      )}
    </>
  );
}
