import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ColumnWriter } from "../../core/proof/items";
import { type FieldFormat } from "../../core/text/figures";
import { byKeys, SortRanks, valueRanks } from "./sort-ranks";

const columnOf = (values: readonly string[], format: FieldFormat = {}) => {
  const writer = new ColumnWriter(values.length);
  values.forEach((value, row) => writer.set(row, value));
  return { ...writer.column(), format };
};
const sorted = (...kinds: string[][]) => sortedAs(...kinds.map((values) => ({ values, format: {} })));
const sortedAs = (...fields: { values: string[]; format: FieldFormat }[]) => {
  const kinds = fields.map(({ values }) => values);
  const columns = fields.map(({ values, format }) => columnOf(values, format));
  const ranks = valueRanks(columns);
  return kinds
    .flatMap((values, k) => values.map((value, row) => ({ value, rank: ranks[k]![columns[k]!.codes[row]!]! })))
    .sort((a, b) => a.rank - b.rank)
    .map(({ value }) => value);
};

describe("the order of a field's values", () => {
  it("is that of numbers where all are, whatever is written around them", () =>
    expect(sorted(["12", "2.50", "1,200"], ["100"])).toEqual(["2.50", "12", "100", "1,200"]));

  it("goes by how each kind writes its figures", () =>
    expect(
      sortedAs(
        { values: ["1.850", "2,50"], format: { number: "comma" } },
        { values: ["1.850", "900"], format: { number: "point" } },
      ),
    ).toEqual(["1.850", "2,50", "900", "1.850"]));

  it("is that of days where most are, and what is none comes behind", () =>
    expect(sorted(["31.12.2023", "soon", "2023-01-05", "2024-01-01T10:00:00Z", "1.2.2024"])).toEqual([
      "2023-01-05",
      "31.12.2023",
      "2024-01-01T10:00:00Z",
      "1.2.2024",
      "soon",
    ]));

  it("is that of words otherwise, case and accents aside, numbers in them by what they are worth, nothing last", () => {
    expect(sorted(["Rope 10 mm", "écluse", "", "rope 9 mm"], ["Eclair", "Zinc", "", "Rope 10 mm"])).toEqual([
      "Eclair",
      "écluse",
      "rope 9 mm",
      "Rope 10 mm",
      "Rope 10 mm",
      "Zinc",
      "",
      "",
    ]);
  });

  it("is worked out anew when values were added", () => {
    const ranks = new SortRanks();
    const column = columnOf(["b", "d"]);
    expect([...ranks.of([column])[0]!]).toEqual([2, 0, 1]);
    const more = { ...column, table: column.table.extended(["a"]) };
    expect([...ranks.of([more])[0]!]).toEqual([3, 1, 2, 0]);
    // What was given before stays, and is given again for the same values.
    expect(ranks.of([column])).toBe(ranks.of([column]));
  });
});

describe("rows by keys", () => {
  it("are in the order of their keys, and of the rows where those are the same, up and down", () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.nat(5), fc.nat(2 ** 31 - 1)), { maxLength: 60 }), fc.boolean(), (keys, down) => {
        const rows = Int32Array.from(keys, (_, i) => keys.length - 1 - i);
        const made = [...byKeys(rows, Float64Array.from(keys), down)];
        const expected = [...rows].sort((a, b) => (down ? keys[b]! - keys[a]! : keys[a]! - keys[b]!));
        expect(made).toEqual(expected);
      }),
      { numRuns: 1000 },
    );
  });
});
