"use client";
import { useEffect, useSyncExternalStore } from "react";
import { toast } from "sonner";
import { type Kind } from "../../core/design/kinds";
import { ApiError, call } from "./api";
import { CLIENT } from "./client-id";
import { DraftSaver, type SaverView } from "./draft-saver";
import { draftKeeper, KEPT_NOWHERE, orphanedDraft } from "./kept-drafts";
import { browserStorage } from "./site-storage";
import { useKindWord, useSite } from "./site-context";
import { draftOf } from "./site-kinds";

/** A body beyond this is not sent from a page that closes; it stays in the browser's store. */
const MOST_KEEPALIVE = 60_000;

/** A kind's draft as it is typed, with where it stands; it is stored whatever screen is shown. */
export function useDraftSaver(kind: Kind): { saver: DraftSaver; view: SaverView } {
  const { state, savers, setDraft } = useSite();
  const kindWord = useKindWord();
  const stored = draftOf(state, kind);
  const saver = savers.of(kind, () => {
    const storage = browserStorage();
    return new DraftSaver(stored, {
      send: (design, seen, keepalive) =>
        call(
          "designs.save",
          { kind, design, seen },
          { keepalive: keepalive && JSON.stringify(design).length < MOST_KEEPALIVE },
        ),
      keeper: storage ? draftKeeper(kind, CLIENT, storage) : KEPT_NOWHERE,
      isPassing: (error) => !(error instanceof ApiError) || error.code !== "invalid",
      onStored: (design) => setDraft(kind, design),
      onBoth: () => void toast(`Other lines for ${kindWord(kind, 2)} were changed elsewhere; both changes are kept`),
    });
  });
  // Only by the saver that is shown: what another one took out of the browser's store would be stored, and never seen here.
  useEffect(() => {
    if (savers.isFirstShown(kind)) void takeUpOrphan(kind, saver);
  }, [savers, kind, saver]);
  useEffect(() => saver.adopt(stored), [saver, stored]);
  // Whoever goes to another screen is not made to wait for the pause in typing.
  useEffect(() => () => saver.flush(false), [saver]);
  const view = useSyncExternalStore(saver.subscribe, saver.current, saver.current);
  useConflict(kind, saver, view);
  return { saver, view };
}

/** Takes up what a window that is gone had not stored. What could not be looked at stays for the next window. */
async function takeUpOrphan(kind: Kind, saver: DraftSaver): Promise<void> {
  const storage = browserStorage();
  if (!storage) return;
  // What is typed here already is not written over.
  const left = await orphanedDraft(kind, CLIENT, storage, (kept) => saver.canTakeUp(kept)).catch(() => null);
  if (left) saver.takeUp(left);
}

/** Says that another window stored another draft, and lets either be taken. */
function useConflict(kind: Kind, saver: DraftSaver, { state, message }: SaverView): void {
  const kindWord = useKindWord();
  useEffect(() => {
    const id = `conflict ${kind}`;
    if (state !== "conflict") return;
    toast(`The draft for ${kindWord(kind, 2)} was changed in another window`, {
      id,
      duration: Infinity,
      action: { label: "Use the other", onClick: () => saver.takeTheirs() },
      cancel: { label: "Keep mine", onClick: () => saver.keepMine() },
    });
    return () => void toast.dismiss(id);
  }, [kind, saver, state, kindWord]);
  useEffect(() => {
    if (state === "refused") toast.error(message ?? "The draft was not saved", { id: "draft-not-stored" });
  }, [state, message]);
}
