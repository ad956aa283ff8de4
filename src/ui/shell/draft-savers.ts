"use client";
import { useEffect } from "react";
import type { StoredDraft } from "../../store/drafts";
import type { DraftSaver } from "./draft-saver";

/** A window's saver of each kind's draft: whoever changes a draft does it through the same one. */
export class DraftSavers {
  private readonly savers = new Map<string, DraftSaver>();
  private readonly shown = new Set<string>();

  /** @param make makes a kind's saver the first time that it is asked for. */
  of(kind: string, make: () => DraftSaver): DraftSaver {
    let saver = this.savers.get(kind);
    if (!saver) this.savers.set(kind, (saver = make()));
    return saver;
  }

  /** Whether a kind's saver is shown for the first time. One that was made may never be shown: what is drawn can be begun anew. */
  isFirstShown(kind: string): boolean {
    const isFirst = !this.shown.has(kind);
    this.shown.add(kind);
    return isFirst;
  }

  /** Tells a kind's saver, where there is one, what the server has now. */
  adopt(kind: string, stored: StoredDraft): void {
    this.savers.get(kind)?.adopt(stored);
  }

  all(): DraftSaver[] {
    return [...this.savers.values()];
  }
}

/** Sends what waits when the page is left or the connection is back. */
export function useFlushing(savers: DraftSavers): void {
  useEffect(() => {
    const leave = () => savers.all().forEach((saver) => saver.flush(true));
    const back = () => savers.all().forEach((saver) => saver.flush(false));
    window.addEventListener("pagehide", leave);
    window.addEventListener("online", back);
    window.addEventListener("pageshow", back);
    return () => {
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("online", back);
      window.removeEventListener("pageshow", back);
    };
  }, [savers]);
}
