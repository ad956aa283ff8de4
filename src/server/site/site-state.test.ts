import { beforeEach, describe, expect, it } from "vitest";
import { baseDesign, EMPTY_DESIGN } from "../../core/design/design";
import { kindOf } from "../../core/design/kinds";
import { newKind } from "../../core/design/new-kind";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { writeDraft } from "../../store/drafts";
import { goneMarker } from "../../store/gone";
import { type Db, openStore } from "../../store/open";
import { nextRevision, readSite, writeSite } from "../../store/site";
import { type OpenedSite } from "../workspace/opened-site";
import { saveSettings } from "./site-state";

const RECIPE = newKind("recipe", []);
const WITH = { ...DEMO_SITE, kinds: [RECIPE] };
const now = "2026-11-26T10:00:00Z";
let db: Db;
let site: OpenedSite;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, WITH);
  site = { db, jobs: { list: () => [] }, warm: () => Promise.resolve() } as unknown as OpenedSite;
});
const without = () => saveSettings(site, DEMO_SITE, WITH);
const bringRecipe = () =>
  itemWriter(db)(
    { key: "1", kind: "recipe", path: "/1", columns: {}, attributes: null, body: null, byHand: null },
    nextRevision(db),
  );

describe("a kind of the site’s own", () => {
  it("goes where nothing is of it", () => {
    expect(without().drafts.recipe).toBeUndefined();
    expect(kindOf(readSite(db), "recipe")).toBeUndefined();
  });

  it("stays as long as it has pages, gone ones among them", () => {
    bringRecipe();
    expect(without).toThrow("There is 1 recipe");
    goneMarker(db, 1, now)([1]);
    expect(without).toThrow("There is 1 recipe, those that are gone among them");
    expect(kindOf(readSite(db), "recipe")).toEqual(RECIPE);
  });

  it("stays as long as it has lines", () => {
    writeDraft(db, "recipe", baseDesign({ title: "{name}" }), now);
    expect(without).toThrow("There are lines for recipes");
    writeDraft(db, "recipe", EMPTY_DESIGN, now);
    expect(without().site).toEqual(DEMO_SITE);
  });
});
