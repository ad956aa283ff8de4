import { describe, expect, it } from "vitest";
import { type ItemQuery } from "../../core/items/query";
import { FIRST_OUT, namesOf, type OutChoice, outQuery, readOutChoice } from "./out-choice";

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
    expect(namesOf(own)).toEqual({
      columns: [
        { column: "id", name: "SKU" },
        { column: "title", name: "SEO title" },
      ],
      wrong: null,
    });
    const asked: Record<string, unknown> = outQuery(own, { kind: "all", group: "kind" } as ItemQuery);
    expect(asked).toMatchObject({ shape: "wide", onlyDiffering: true, query: { kind: "all", group: null } });
    expect(asked["columns"]).toEqual(namesOf(own).columns);
  });

  it.each([
    [{}, /at least one column/],
    [{ id: " " }, /needs a name/],
    [{ id: "a", title: "a " }, /Two columns are called “a”/],
  ])("is told to be wrong in words: %j", (wide, words) => {
    expect(namesOf(withColumns(wide)).wrong).toMatch(words);
  });
});
