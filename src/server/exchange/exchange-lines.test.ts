import { beforeEach, describe, expect, it } from "vitest";
import { baseDesign } from "../../core/design/design";
import { kindIds } from "../../core/design/kinds";
import { newKind } from "../../core/design/new-kind";
import { DEMO_SITE } from "../../demo/site";
import { readDraft, writeDraft } from "../../store/drafts";
import { type Db, openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { adoptLinesFile, reviewLinesFile, writeLinesFile } from "./exchange-lines";

const RECIPE = newKind("recipe", []);
const PLACE = newKind("place", []);
const now = "2026-11-26T10:00:00Z";
let file: string;
let db: Db;

beforeEach(() => {
  const other = openStore(":memory:");
  writeSite(other, { ...DEMO_SITE, name: "Quill & Ferrow", kinds: [RECIPE, PLACE] });
  writeDraft(other, "recipe", baseDesign({ title: "{name} step by step" }), now);
  const written = JSON.parse(writeLinesFile(other)) as { kinds: Record<string, unknown> };
  // Kinds without lines, which a person would leave out.
  written.kinds = { recipe: written.kinds.recipe };
  file = JSON.stringify(written);
  db = openStore(":memory:");
  writeSite(db, { ...DEMO_SITE, kinds: [newKind("boat", [])] });
});

describe("a lines file with kinds of its own", () => {
  it("shows what it would change for them", () => {
    expect(reviewLinesFile(db, "a.lines.json", file).kinds).toMatchObject([{ kind: "recipe", rules: 0 }]);
  });

  it("brings the kinds along that its lines are for, whether the settings are taken over or not", () => {
    expect(adoptLinesFile(db, "a.lines.json", file, false, now)).toEqual(["recipe"]);
    expect(kindIds(readSite(db)).slice(7)).toEqual(["boat", "recipe"]);
    expect(readSite(db)!.name).toBe(DEMO_SITE.name);
    expect(readDraft(db, "recipe").design.base.title).toBe("{name} step by step");
  });

  it("takes no kind away with its settings", () => {
    adoptLinesFile(db, "a.lines.json", file, true, now);
    expect(kindIds(readSite(db)).slice(7)).toEqual(["boat", "recipe", "place"]);
    expect(readSite(db)!.name).toBe("Quill & Ferrow");
  });

  it("is refused where it has lines for a kind that nobody knows, with the place", () => {
    const wrong = JSON.stringify({ format: "nine-lines/1", kinds: { recipe: { base: { title: "{name}" } } } }, null, 1);
    expect(() => reviewLinesFile(db, "a.lines.json", wrong)).toThrow(
      /a\.lines\.json:4:\d+: at kinds\.recipe: there is no kind “recipe”/,
    );
  });
});

describe("an address line in a lines file", () => {
  const fileOf = (product: object, site: object = {}) =>
    JSON.stringify({ format: "nine-lines/1", site, kinds: { product } });

  it("comes in with the lines, and goes out again; what the file does not say is not kept", () => {
    writeDraft(db, "product", { ...baseDesign({ title: "{name}" }), address: "/old/{slug}", moves: "all" }, now);
    const given = fileOf({ base: { title: "{name}" }, address: "/shop/{slug}", moves: "new" });
    expect(reviewLinesFile(db, "a.lines.json", given).kinds[0]!.differences).toEqual([
      { rule: null, what: "address", before: "/old/{slug}", after: "/shop/{slug}" },
      { rule: null, what: "moves", before: "all", after: "new" },
    ]);
    adoptLinesFile(db, "a.lines.json", given, false, now);
    expect(readDraft(db, "product").design).toMatchObject({ address: "/shop/{slug}", moves: "new" });
    expect(JSON.parse(writeLinesFile(db))).toMatchObject({
      kinds: { product: { address: "/shop/{slug}", moves: "new" } },
    });
    adoptLinesFile(db, "a.lines.json", fileOf({ base: { title: "{name}" } }), false, now);
    expect(readDraft(db, "product").design.address).toBeUndefined();
  });

  it("is read of an older file’s settings, where it was a path that did nothing", () => {
    const older = fileOf({ base: { title: "{name}" } }, { name: "Quill", paths: { product: "/shop/{slug}" } });
    adoptLinesFile(db, "a.lines.json", older, false, now);
    expect(readDraft(db, "product").design.address).toBe("/shop/{slug}");
  });

  it("with an error is told", () => {
    expect(reviewLinesFile(db, "a.lines.json", fileOf({ address: "/{slug}/more" })).faults).toEqual([
      { kind: "product", rule: null, text: "address", message: expect.stringContaining("in the last segment") },
    ]);
  });
});
