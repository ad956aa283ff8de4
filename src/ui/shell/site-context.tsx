"use client";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";
import { type Kind, kindWord } from "../../core/design/kinds";
import type { StoredDraft } from "../../store/drafts";
import type { SiteState } from "../../server/site/site-state";
import { call } from "./api";
import { CLIENT } from "./client-id";
import { holdWindow } from "./kept-drafts";
import { DraftSavers, useFlushing } from "./draft-savers";
import { nextState } from "./next-state";

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
  const turns = useRef({ asked: 0, shown: 0 });
  const refresh = useCallback(async () => {
    const own = ++turns.current.asked;
    const fresh = await call("site.state", {});
    // What was asked for later is here already.
    if (own < turns.current.shown) return fresh;
    turns.current.shown = own;
    for (const [kind, draft] of Object.entries(fresh.drafts)) savers.adopt(kind, draft);
    setState((known) => nextState(known, fresh));
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
