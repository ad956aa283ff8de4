"use client";
import { type SiteState } from "../../server/site/site-state";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import { type Kind } from "../../core/design/kinds";
import { ask } from "./api";

interface SiteContextValue {
  readonly state: SiteState;
  readonly refresh: () => Promise<SiteState>;
  /** Notes that a kind's draft was stored. */
  readonly setDraft: (kind: BoardKind, draft: SiteState["drafts"][BoardKind]) => void;
  readonly keep: (kind: BoardKind) => Promise<void>;
}

export type BoardKind = keyof SiteState["drafts"];

const SiteContext = createContext<SiteContextValue | null>(null);

export function SiteProvider({ initial, children }: { initial: SiteState; children: ReactNode }) {
  const [state, setState] = useState(initial);
  const refresh = useCallback(async () => {
    const fresh = await ask<SiteState>("/api/state");
    setState(fresh);
    return fresh;
  }, []);
  const setDraft = useCallback<SiteContextValue["setDraft"]>(
    (kind, draft) => setState((old) => ({ ...old, drafts: { ...old.drafts, [kind]: draft } })),
    [],
  );
  const keep = useCallback(async (kind: BoardKind) => {
    const kept = await ask<SiteState["kept"][BoardKind]>("/api/kept", { body: { kind } });
    setState((old) => ({ ...old, kept: { ...old.kept, [kind]: kept } }));
  }, []);
  const value = useMemo(() => ({ state, refresh, setDraft, keep }), [state, refresh, setDraft, keep]);
  return <SiteContext value={value}>{children}</SiteContext>;
}

/** The site's state, as last heard from the server. */
export function useSite(): SiteContextValue {
  const value = useContext(SiteContext);
  if (!value) throw new Error("useSite stands outside of the SiteProvider");
  return value;
}

/** Whether a kind's draft differs from what is kept. */
export function hasUnkept(state: SiteState, kind: BoardKind): boolean {
  return JSON.stringify(state.drafts[kind].design) !== JSON.stringify(state.kept[kind].design);
}

export function isBoardKind(kind: string | null): kind is BoardKind & Kind {
  return kind === "post" || kind === "product" || kind === "category";
}
