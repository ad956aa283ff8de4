import { describe, expect, it } from "vitest";
import { emptyFieldsOf } from "./empty-fields";
import { parseLine } from "./parse";

const FILLED: Record<string, number> = { name: 1, summary: 0, intro: 0, category: 0.4, price: 0 };
const found = (source: string) =>
  emptyFieldsOf(parseLine(source).nodes, (field) => FILLED[field]).map(({ from, to }) => source.slice(from, to));

describe("fields that no page has", () => {
  it.each([
    ["{name} – {category}", []],
    ["{summary or intro:first}", ["{summary or intro:first}"]],
    ["{summary or name}", []],
    ['{summary or "From our loft"}', []],
    ["{name}[ at {price}][ – {category} || {intro}]", ["{price}", "{intro}"]],
    ["{name}[ – [{summary} ]{category}]", ["{summary}"]],
    // What is not known yet is not said to be empty.
    ["{material}", []],
    ["{material or summary}", []],
  ])("%s", (source, expected) => expect(found(source)).toEqual(expected));
});
