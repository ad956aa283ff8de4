"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { type KindDesign } from "../../core/design/design";
import { kindWord } from "../../core/design/kinds";
import type { StoredDesign } from "../../store/designs";
import { ask } from "../shell/api";
import { type BoardKind, useSite } from "../shell/site-context";

const SAVE_AFTER_MS = 200;

/**
 * A kind's draft, changed at once and stored as it is typed; what is not stored yet is sent when the page is left. A
 * draft that was changed in another window meanwhile is told, and either one can be taken: neither is lost.
 */
export function useDraft(kind: BoardKind): { design: KindDesign; change: (design: KindDesign) => void; saved: boolean } {
  const { state, setDraft } = useSite();
  const [design, setDesign] = useState(state.drafts[kind].design);
  const [saved, setSaved] = useState(true);
  const seen = useRef(state.drafts[kind].version);
  const waiting = useRef<{ kind: BoardKind; design: KindDesign; timer: ReturnType<typeof setTimeout> } | null>(null);
  const current = useRef(kind);

  const adopt = useCallback(
    (of: BoardKind, theirs: StoredDesign) => {
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
        const answer = await ask<{ saved?: StoredDesign; conflict?: StoredDesign }>("/api/draft", { method: "PUT", body: { kind: of, design: wanted, seen: version }, keepalive });
        if (answer.conflict) {
          const theirs = answer.conflict;
          toast(`The draft for ${kindWord(of, 2)} was changed in another window`, {
            duration: Infinity,
            action: { label: "Take that one", onClick: () => adopt(of, theirs) },
            cancel: { label: "Keep mine", onClick: () => void send(of, wanted, theirs.version) },
          });
          return;
        }
        if (current.current === of) seen.current = answer.saved!.version;
        setDraft(of, answer.saved!);
        if (!waiting.current) setSaved(true);
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
      void send(waits.kind, waits.design, seen.current, keepalive);
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

  useEffect(() => {
    const onHide = () => flush(true);
    window.addEventListener("pagehide", onHide);
    return () => {
      window.removeEventListener("pagehide", onHide);
      flush(true);
    };
  }, [flush]);

  const change = useCallback(
    (next: KindDesign) => {
      setDesign(next);
      setSaved(false);
      if (waiting.current) clearTimeout(waiting.current.timer);
      const timer = setTimeout(() => flush(false), SAVE_AFTER_MS);
      waiting.current = { kind: current.current, design: next, timer };
    },
    [flush],
  );

  return { design: current.current === kind ? design : drafts[kind].design, change, saved };
}
