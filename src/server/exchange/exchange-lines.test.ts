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
