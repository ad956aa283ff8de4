import { describe, expect, it } from "vitest";
import type { SiteState } from "../../server/site/site-state";
import type { StoredDraft } from "../../store/drafts";
import { NO_STATE } from "../../test/no-state";
import { nextState } from "./next-state";

const draft = (version: number): StoredDraft => ({
  design: { base: { title: `v${version}` }, rules: [] },
  version,
  savedAt: null,
});
const state = (change: Partial<SiteState>): SiteState => ({
  ...NO_STATE,
  drafts: { product: draft(2), post: draft(5) },
  ...change,
});

describe("the state of a site that was asked for again", () => {
  it("is the same object where nothing is another", () => {
    const known = state({});
    expect(nextState(known, state({}))).toBe(known);
    expect(nextState(known, state({ drafts: { product: draft(1), post: draft(5) } }))).toBe(known);
  });

  it("is what the server has, but for drafts that were stored meanwhile", () => {
    const fresh = state({ revision: 2, drafts: { product: draft(1), post: draft(6), page: draft(1) } });
    expect(nextState(state({}), fresh)).toEqual({
      ...fresh,
      drafts: { product: draft(2), post: draft(6), page: draft(1) },
    });
  });

  it("has no draft of a kind that is gone", () => {
    expect(nextState(state({}), state({ drafts: { post: draft(5) } })).drafts).toEqual({ post: draft(5) });
  });
});
