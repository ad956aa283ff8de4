import { describe, expect, it } from "vitest";
import { fieldsOfNodes } from "./field-names";
import { parseLine } from "./parse";
import { readingOf } from "./reading";

describe("a line in plain words", () => {
  it.each([
    ["{name}[ – {category}]", "the name; then, if there is room, “ – category”"],
    ["{summary or intro:fit}", "the excerpt, or else the first paragraph (as much of it as there is room for)"],
    ["{name:lower:words(3)} here", "the name (in lower case, at most 3 words) “ here”"],
    ["{name}[ in {finish}]^1[ {id}]^apart", "the name; then, if there is room (gives way first), “ in finish”; then, only where another page would read the same, “ number”"],
    ["{name}[ – {site}]^keep", "the name; then, if it is known, “ – site name”"],
    ["[{summary} || {intro}]", "if there is room, “excerpt ”, or else “ first paragraph”"],
    ["{sold_by}", "the sold by"],
    ["", ""],
  ])("%s reads: %s", (source, words) => expect(readingOf(parseLine(source).nodes)).toBe(words));

  it("names fields of its own prototype by their own name", () => expect(readingOf(parseLine("{constructor}").nodes)).toBe("the constructor"));
});

describe("the fields of a line", () => {
  it("are those that it reads, each once, those of filters too", () => {
    expect(fieldsOfNodes(parseLine('{summary or intro or "x":without(name)}[ {name} [{colour}]||{summary}]').nodes)).toEqual(["summary", "intro", "name", "colour"]);
  });
});
