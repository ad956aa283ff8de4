"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { type KindDesign, kindDesignSchema } from "../../core/design/design";
import { kindWord } from "../../core/design/kinds";
import type { StoredDesign } from "../../store/designs";
import { ask } from "../shell/api";
import { type BoardKind, useSite } from "../shell/site-context";
import { type DraftHistory, NO_HISTORY, noted, stepBack, stepForward } from "./draft-history";

/** Typing has paused for so long when the draft is sent, so that sending does not stand in the way of the figures; until then the browser keeps it. */
const SAVE_AFTER_MS = 400;

export interface Draft {
  readonly design: KindDesign;
  /** Changes the design; `label` says what was done, changes with the same `key` in quick succession are one step. */
  readonly change: (design: KindDesign, label: string, key?: string) => void;
  /** Whether the server has it. */
  readonly saved: boolean;
  /** Takes the last step back, or forward again. */
  readonly undo: () => void;
  readonly redo: () => void;
}

/** What of a draft the server does not have yet, kept in the browser: it survives a crash. */
const unsent = {
  name: (kind: BoardKind) => `nine-lines draft ${kind}`,
  put(kind: BoardKind, design: KindDesign, seen: number) {
    try {
      localStorage.setItem(this.name(kind), JSON.stringify({ design, seen }));
    } catch {
      // Without room in the browser's store the draft is only on its way to the server.
    }
  },
  forget(kind: BoardKind) {
    localStorage.removeItem(this.name(kind));
  },
  read(kind: BoardKind): { design: KindDesign; seen: number } | null {
    try {
      const stored = JSON.parse(localStorage.getItem(this.name(kind)) ?? "null") as {
        design: unknown;
        seen: number;
      } | null;
      return stored && { design: kindDesignSchema.parse(stored.design), seen: stored.seen };
    } catch {
      return null;
    }
  },
};

/**
 * A kind's draft, changed at once and stored as it is typed; what is not stored yet is sent when the page is left, and
 * kept in the browser until the server has it. A draft that was changed in another window meanwhile is told, and either one can be
 * taken: neither is lost.
 */
export function useDraft(kind: BoardKind): Draft {
  const { state, setDraft } = useSite();
  const [design, setDesign] = useState(state.drafts[kind].design);
  const [saved, setSaved] = useState(true);
  const seen = useRef(state.drafts[kind].version);
  const waiting = useRef<{ kind: BoardKind; design: KindDesign; timer: ReturnType<typeof setTimeout> } | null>(null);
  const current = useRef(kind);
  const present = useRef(design);
  present.current = design;
  const histories = useRef(new Map<BoardKind, DraftHistory>());

  const adopt = useCallback(
    (of: BoardKind, theirs: StoredDesign) => {
      unsent.forget(of);
      setDraft(of, theirs);
      if (current.current !== of) return;
      seen.current = theirs.version;
      setDesign(theirs.design);
      setSaved(true);
    },
    [setDraft],
  );

  const send = useCallback(
    async (of: BoardKind, wanted: KindDesign, version: number, keepalive = false) => {
      try {
        const answer = await ask<{ saved?: StoredDesign; conflict?: StoredDesign }>("/api/draft", {
          method: "PUT",
          body: { kind: of, design: wanted, seen: version },
          keepalive,
        });
        if (answer.conflict) {
          const theirs = answer.conflict;
          toast(`The draft for ${kindWord(of, 2)} was changed in another window`, {
            id: `conflict ${of}`,
            duration: Infinity,
            action: { label: "Take that one", onClick: () => adopt(of, theirs) },
            cancel: {
              label: "Keep mine",
              onClick: () => void send(of, current.current === of ? present.current : wanted, theirs.version),
            },
          });
          return;
        }
        if (current.current === of) seen.current = answer.saved!.version;
        setDraft(of, answer.saved!);
        if (!waiting.current) {
          unsent.forget(of);
          setSaved(true);
        }
      } catch (error) {
        toast.error(error instanceof Error ? error.message : String(error), { id: "draft-not-stored" });
      }
    },
    [setDraft, adopt],
  );

  const flush = useCallback(
    (keepalive: boolean) => {
      const waits = waiting.current;
      if (!waits) return;
      clearTimeout(waits.timer);
      waiting.current = null;
      // A body beyond what a browser sends from a page that closes stays in the browser's store.
      void send(waits.kind, waits.design, seen.current, keepalive && JSON.stringify(waits.design).length < 60_000);
    },
    [send],
  );

  const drafts = state.drafts;
  useEffect(() => {
    if (current.current === kind) return;
    flush(false);
    current.current = kind;
    seen.current = drafts[kind].version;
    setDesign(drafts[kind].design);
  }, [kind, drafts, flush]);

  // What a crash left in the browser is sent first.
  useEffect(() => {
    const left = unsent.read(kind);
    if (!left) return;
    if (JSON.stringify(left.design) === JSON.stringify(drafts[kind].design)) {
      unsent.forget(kind);
      return;
    }
    if (left.seen === drafts[kind].version) setDesign(left.design);
    void send(kind, left.design, left.seen);
    // Once a kind is opened; later changes are this window's own.
  }, [kind]); // eslint-disable-line react-hooks/exhaustive-deps

  useEffect(() => {
    const onHide = () => flush(true);
    window.addEventListener("pagehide", onHide);
    return () => {
      window.removeEventListener("pagehide", onHide);
      flush(true);
    };
  }, [flush]);

  const put = useCallback(
    (next: KindDesign) => {
      present.current = next;
      setDesign(next);
      setSaved(false);
      unsent.put(current.current, next, seen.current);
      if (waiting.current) clearTimeout(waiting.current.timer);
      const timer = setTimeout(() => flush(false), SAVE_AFTER_MS);
      waiting.current = { kind: current.current, design: next, timer };
    },
    [flush],
  );

  const change = useCallback(
    (next: KindDesign, label: string, key?: string) => {
      const history = histories.current.get(current.current) ?? NO_HISTORY;
      histories.current.set(current.current, noted(history, present.current, label, key ?? null, Date.now()));
      put(next);
    },
    [put],
  );

  const step = useCallback(
    (take: typeof stepBack, words: string) => {
      const taken = take(histories.current.get(current.current) ?? NO_HISTORY, present.current);
      if (!taken) return;
      histories.current.set(current.current, taken.history);
      put(taken.design);
      toast(`${words}: ${taken.label}`, { id: "step", duration: 2500 });
    },
    [put],
  );
  const undo = useCallback(() => step(stepBack, "Undone"), [step]);
  const redo = useCallback(() => step(stepForward, "Done again"), [step]);

  return { design: current.current === kind ? design : drafts[kind].design, change, saved, undo, redo };
}
