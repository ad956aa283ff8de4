import { describe, expect, it } from "vitest";
import { kindIds } from "../../core/design/kinds";
import { DEMO_SITE } from "../../demo/site";
import { builtInColumns } from "./columns";
import { itemsCodec } from "./items-url";
import { FIRST_OUT, namesOf, type OutChoice, outQuery, readOutChoice } from "./out-choice";

const VIEW = itemsCodec(kindIds(null)).read(new URLSearchParams());
const withColumns = (wide: Record<string, string | null>): OutChoice => ({
  ...FIRST_OUT,
  columns: { ...FIRST_OUT.columns, wide },
});

describe("how pages are taken out", () => {
  it("is read as it was kept, and as at first where that cannot be read", () => {
    const own = withColumns({ id: "SKU", title: null });
    expect(readOutChoice(JSON.stringify(own))).toEqual(own);
    for (const bad of [null, "", "{", "{}", JSON.stringify({ ...own, format: "pdf" })])
      expect(readOutChoice(bad)).toBe(FIRST_OUT);
  });

  it("has columns in one order, under the names that the site has for them", () => {
    const own = withColumns({ title: "SEO title ", id: "SKU", description: null, boat: "x" });
    expect(namesOf(own, VIEW)).toEqual({
      columns: [
        { column: "id", name: "SKU" },
        { column: "title", name: "SEO title" },
      ],
      wrong: null,
    });
    const asked: Record<string, unknown> = outQuery(own, { ...VIEW, group: "kind" });
    expect(asked).toMatchObject({ shape: "wide", onlyDiffering: true, query: { kind: "all", group: null } });
    expect(asked["columns"]).toEqual(namesOf(own, VIEW).columns);
  });

  it("is the list as it stands: its columns in its order, with what its cells show, every page of it", () => {
    const view = { ...VIEW, columns: ["title", "field:material", "name", "findings"], side: "draft" as const };
    const own = { ...FIRST_OUT, shape: "list" as const, onlyDiffering: true };
    expect(namesOf(own, view).columns.map(({ column, name }) => `${column} as ${name}`)).toEqual([
      "id as id",
      "title_before as title_before",
      "title as title",
      "field:material as material",
      "name as name",
      "address as address",
      "findings as findings",
    ]);
    expect(outQuery(own, view)).toMatchObject({ shape: "wide", onlyDiffering: false });
  });

  it("leaves no column of the list out, and has no two of one name", () => {
    const own = { ...FIRST_OUT, shape: "list" as const };
    for (const { id } of builtInColumns(DEMO_SITE, "plain"))
      expect(namesOf(own, { ...VIEW, columns: [id] }).columns.length, id).toBeGreaterThan(1);
    const fields = ["field:id", "field:title", "field:material"];
    const names = namesOf(own, { ...VIEW, columns: ["title", ...fields] }).columns.map(({ name }) => name);
    expect(names).toEqual(["id", "title_before", "title", "field id", "field title", "material"]);
  });

  it("can have any field of the pages beside the columns that every site has", () => {
    const own = withColumns({ id: "id", "field:material": "made of" });
    expect(namesOf(own, VIEW).columns.at(-1)).toEqual({ column: "field:material", name: "made of" });
  });

  it.each([
    [{}, /at least one column/],
    [{ id: " " }, /needs a name/],
    [{ id: "a", title: "a " }, /Two columns are called “a”/],
  ])("is told to be wrong in words: %j", (wide, words) => {
    expect(namesOf(withColumns(wide), VIEW).wrong).toMatch(words);
  });
});
