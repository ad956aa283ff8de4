import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { kindIds, kindOf } from "../../core/design/kinds";
import { newKind } from "../../core/design/new-kind";
import { DEMO_SITE } from "../../demo/site";
import { csvLine } from "../../formats/csv-write";
import { guessTargets } from "../../formats/guess-by-names";
import { type Mapping } from "../../formats/mapping";
import { countByKind } from "../../store/items";
import { type Db, openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { bringIn } from "./bring-in";
import { foresee } from "./foresee";
import { firstMapping } from "./remembered-mapping";

const HEADER = ["id", "address", "name", "kind"];
const FILE = join(mkdtempSync(join(tmpdir(), "nine-lines-kinds-")), "pages.csv");
const mapping: Mapping = { targets: guessTargets(HEADER), kind: "product" };
const now = () => "2026-11-26T10:00:00Z";
let db: Db;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const rows = ["Recipe", "recipe", "RECIPE", "Tutorial", "post", ""].map((kind, i) => [
    `${i}`,
    `/p${i}`,
    `P${i}`,
    kind,
  ]);
  writeFileSync(FILE, csvLine(HEADER) + rows.map(csvLine).join(""));
});
const bring = (asked: Mapping) => bringIn(db, FILE, "pages.csv", { mapping: asked, byHand: "none" }, { now });

describe("kinds of a file that the site has not", () => {
  it("are told by their words before the file is in, and their rows are refused as long as nothing is said of them", async () => {
    const seen = await foresee(db, FILE, mapping);
    expect(seen.unknownKinds).toEqual([
      { word: "Recipe", rows: 3 },
      { word: "Tutorial", rows: 1 },
    ]);
    expect(seen).toMatchObject({ added: 2, refused: 4 });
    expect(await bring(mapping)).toMatchObject({ added: 2, refused: 4 });
    expect(readSite(db)).toEqual(DEMO_SITE);
  });

  it("are made on the way, or are another name for one that is there; the next file needs no telling", async () => {
    const recipe = newKind("Recipe", kindIds(null));
    const post = kindOf(null, "post")!;
    const told: Mapping = { ...mapping, kinds: [recipe, { ...post, words: [...post.words, "Tutorial"] }] };
    expect(await foresee(db, FILE, told)).toMatchObject({ added: 6, refused: 0, unknownKinds: [] });
    expect(readSite(db)!.kinds).toEqual([]);
    expect(await bring(told)).toMatchObject({ added: 6, refused: 0 });
    expect(countByKind(db)).toEqual({ recipe: 3, post: 2, product: 1 });
    expect(kindIds(readSite(db))).toContain("recipe");
    expect(await bring(mapping)).toMatchObject({ unchanged: 6, refused: 0 });
  });

  it("can be what all rows are, and are remembered with the file", async () => {
    const targets = mapping.targets.map((target) => (target === "kind" ? ("attribute" as const) : target));
    const place = newKind("place", []);
    await expect(bring({ targets, kind: "place" })).rejects.toThrow("This site has no kind “place”");
    await bring({ targets, kind: "place", kinds: [place] });
    expect(countByKind(db)).toEqual({ place: 6 });
    expect(firstMapping(db, readSite(db), HEADER, []).kind).toBe("place");
  });

  it("have no second page where there is one at most, neither in the file nor beside the site’s", async () => {
    writeSite(db, { ...DEMO_SITE, kinds: [{ ...newKind("search page", []), isSingle: true }] });
    const rows = (own: readonly (readonly string[])[]) =>
      writeFileSync(FILE, csvLine(HEADER) + own.map((row) => csvLine([...row])).join(""));
    rows([
      ["s1", "/search", "Search", "search page"],
      ["s2", "/find", "Find", "search page"],
      ["h", "/", "Home", "home"],
    ]);
    expect(await foresee(db, FILE, mapping)).toMatchObject({ added: 2, refused: 1 });
    expect(await bring(mapping)).toMatchObject({ added: 2, refused: 1 });
    rows([["s3", "/seek", "Seek", "search page"]]);
    expect((await foresee(db, FILE, mapping)).firstRefused[0]!.reason).toMatch(
      /^The site’s search page is \/search already/,
    );
    rows([["s1", "/seek", "Seek", "search page"]]);
    expect(await bring(mapping)).toMatchObject({ updated: 1, refused: 0 });
  });

  it("may have several from before: their rows are theirs, a new one is refused", async () => {
    const one = newKind("landing page", []);
    const rows = [
      ["", "/a", "A", "landing page"],
      ["", "/b", "B", "landing page"],
    ];
    const write = (own: readonly string[][]) => writeFileSync(FILE, csvLine(HEADER) + own.map(csvLine).join(""));
    write(rows);
    await bring({ ...mapping, kinds: [one] });
    writeSite(db, { ...readSite(db)!, kinds: [{ ...one, isSingle: true }] });
    write([...rows, ["l3", "/c", "C", "landing page"]]);
    expect(await foresee(db, FILE, mapping)).toMatchObject({ unchanged: 2, added: 0, refused: 1 });
    expect(await bring(mapping)).toMatchObject({ unchanged: 2, added: 0, refused: 1 });
  });

  it("cannot be more than a site may have", async () => {
    const many = Array.from({ length: 41 }, (_, i) => newKind(`kind ${String.fromCharCode(97 + (i % 26))}${i}`, []));
    await expect(bring({ ...mapping, kinds: many })).rejects.toThrow("The kinds of page cannot be these");
    expect(countByKind(db)).toEqual({});
  });
});
