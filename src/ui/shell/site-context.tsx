"use client";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type Kind, kindIds, kindWord, TEXTS } from "../../core/design/kinds";
import type { StoredDraft } from "../../store/drafts";
import type { SiteState } from "../../server/site/site-state";
import { call } from "./api";
import { CLIENT } from "./client-id";
import { holdWindow } from "./kept-drafts";
import { DraftSavers, useFlushing } from "./draft-savers";

interface SiteContextValue {
  readonly state: SiteState;
  readonly refresh: () => Promise<SiteState>;
  /** This window's savers of the drafts. */
  readonly savers: DraftSavers;
  /** Notes that a kind's draft was stored. */
  readonly setDraft: (kind: Kind, draft: StoredDraft) => void;
}

const SiteContext = createContext<SiteContextValue | null>(null);

export function SiteProvider({ initial, children }: { initial: SiteState; children: ReactNode }) {
  const [state, setState] = useState(initial);
  const [savers] = useState(() => new DraftSavers());
  useFlushing(savers);
  useEffect(() => holdWindow(CLIENT), []);
  const refresh = useCallback(async () => {
    const fresh = await call("site.state", {});
    for (const [kind, draft] of Object.entries(fresh.drafts)) savers.adopt(kind, draft);
    setState(fresh);
    return fresh;
  }, [savers]);
  const setDraft = useCallback<SiteContextValue["setDraft"]>(
    (kind, draft) => {
      savers.adopt(kind, draft);
      setState((old) => ({ ...old, drafts: { ...old.drafts, [kind]: draft } }));
    },
    [savers],
  );
  const value = useMemo(() => ({ state, refresh, savers, setDraft }), [state, refresh, savers, setDraft]);
  return <SiteContext value={value}>{children}</SiteContext>;
}

/** The site's state, as last heard from the server. */
export function useSite(): SiteContextValue {
  const value = useContext(SiteContext);
  if (!value) throw new Error("useSite stands outside of the SiteProvider");
  return value;
}

/** What the site calls the pages of a kind, one or several. */
export function useKindWord(): (kind: Kind, count: number) => string {
  const { site } = useSite().state;
  return useCallback((kind, count) => kindWord(site, kind, count), [site]);
}

const NO_DRAFT: StoredDraft = { design: EMPTY_DESIGN, version: 0, savedAt: null };

/** A kind's draft; an empty one where nothing was drafted yet. */
export function draftOf({ drafts }: Pick<SiteState, "drafts">, kind: Kind): StoredDraft {
  return drafts[kind] ?? NO_DRAFT;
}

/** The kinds that are in front: those that have pages or lines, and the one that is looked at. A site without any has the three first. */
export function shownKinds(state: Pick<SiteState, "site" | "counts" | "drafts">, present?: Kind): readonly Kind[] {
  const kinds = kindIds(state.site);
  const own = kinds.filter((kind) => (state.counts[kind] ?? 0) > 0 || linesOfKind(state, kind) > 0);
  const shown = own.length === 0 ? kinds.slice(0, 3) : own;
  return present === undefined || shown.includes(present)
    ? shown
    : kinds.filter((kind) => kind === present || shown.includes(kind));
}

/** How many lines are drafted for a kind, those of its rules among them. */
export function linesOfKind(state: Pick<SiteState, "drafts">, kind: Kind): number {
  const { base, rules, address } = draftOf(state, kind).design;
  const lines = [base, ...rules].flatMap((own) => TEXTS.filter((text) => own[text]?.trim()));
  return lines.length + (address?.trim() ? 1 : 0);
}
