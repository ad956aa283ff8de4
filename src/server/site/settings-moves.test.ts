import { describe, expect, it } from "vitest";
import { type KindDesign, type Site } from "../../core/design/design";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { writeDraft } from "../../store/drafts";
import { openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { Workspace } from "../workspace/workspace";
import { SettingsMoves } from "./settings-moves";

const NAMES = ["Care of the oars", "Size 40 shackle", "Café lamp", "Plain rope"];
const SITE: Site = { ...DEMO_SITE, reserved: [] };

function opened(design: Partial<KindDesign> = { base: { slug: "{name}" } }) {
  const db = openStore(":memory:");
  writeSite(db, SITE);
  const put = itemWriter(db);
  NAMES.forEach((name, i) =>
    put(
      {
        kind: "product",
        key: `k${i}`,
        path: `/goods/page-${i}`,
        columns: { name },
        attributes: null,
        body: null,
        byHand: null,
      },
      1,
    ),
  );
  writeDraft(db, "product", { base: {}, rules: [], moves: "all", ...design }, "2026-11-27T08:00:00Z");
  return { db, workspace: new Workspace(db) };
}

const slug = (part: Partial<Site["slug"]>): Site => ({ ...SITE, slug: { ...SITE.slug, ...part } });

describe("what a setting does to addresses", () => {
  it.each<[string, Site, number]>([
    ["nothing", SITE, 0],
    ["stop words dropped", slug({ dropStopWords: !SITE.slug.dropStopWords }), 1],
    ["numbers dropped", slug({ dropNumbers: !SITE.slug.dropNumbers }), 1],
    ["letters beyond ASCII kept", slug({ keepUnicode: !SITE.slug.keepUnicode }), 1],
    ["at most 5 characters", slug({ max: 5 }), 4],
    ["a word that is reserved", { ...SITE, reserved: ["plain-rope"] }, 1],
    ["an extra text", { ...SITE, extras: { ...SITE.extras, alt: true } }, 0],
  ])("is told in pages before it is saved: %s", (_, to, pages) => {
    const moves = new SettingsMoves(opened().workspace);
    expect(moves.count(SITE, to)).toBe(pages);
    expect(moves.count(to, SITE)).toBe(pages);
  });

  it("counts the slash at the end where an address line puts addresses together, and nothing without lines", () => {
    const to: Site = { ...SITE, slashEnd: "always" };
    expect(new SettingsMoves(opened({ address: "/shop/{slug}" }).workspace).count(SITE, to)).toBe(NAMES.length);
    expect(new SettingsMoves(opened({}).workspace).count(SITE, slug({ max: 5 }))).toBe(0);
  });

  it("is told anew when the draft is another one, and leaves what is proved of the draft as it was", () => {
    const { db, workspace } = opened();
    const moves = new SettingsMoves(workspace);
    const dropped = slug({ dropNumbers: !SITE.slug.dropNumbers });
    expect(moves.count(SITE, dropped)).toBe(1);
    expect(workspace.textProof("product", "slug", workspace.drafts()["product"]!).proof.textOf(1)).toBe(
      "size-40-shackle",
    );
    writeDraft(db, "product", { base: { slug: "{name} 7" }, rules: [], moves: "all" }, "2026-11-27T08:01:00Z");
    expect(moves.count(SITE, dropped)).toBe(NAMES.length);
  });

  it("is not known before it is saved where pages themselves are read otherwise", () => {
    expect(new SettingsMoves(opened().workspace).count(SITE, { ...SITE, language: "de" })).toBeNull();
  });
});
