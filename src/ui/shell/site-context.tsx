"use client";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { type Kind, kindWord } from "../../core/design/kinds";
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
    // Nothing is drawn anew where nothing is another.
    setState((old) => (JSON.stringify(old) === JSON.stringify(fresh) ? old : fresh));
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
