import { describe, expect, it } from "vitest";
import { fieldsOfNodes } from "./field-names";
import { parseLine } from "./parse";
import { readingOf } from "./reading";

describe("a line in plain words", () => {
  it.each([
    ["{name}[ – {category}]", "the name; then, if there is room, “ – category”"],
    ["{summary or intro:fit}", "the excerpt, or else the first paragraph (as much of it as there is room for)"],
    ["{name:lower:words(3)} here", "the name (in lower case, at most 3 words) “ here”"],
    [
      "{name}[ in {finish}]^1[ {id}]^apart",
      "the name; then, if there is room (dropped first), “ in finish”; then, only where another page would read the same, “ number”",
    ],
    ["{name}[ – {site}]^keep", "the name; then, if it is known, “ – site name”"],
    ["[{summary} || {intro}]", "if there is room, “excerpt ”, or else “ first paragraph”"],
    ["{sold_by}", "the sold by"],
    ["", ""],
    [
      "{name:upper} {name:title} {name:sentence}",
      "the name (in capitals) the name (each word with a capital) the name (with one capital, at its start)",
    ],
    ["{name:words(1):chars(1)}", "the name (at most 1 word, at most 1 character)"],
    [
      "{summary:first}{intro:sentences(1)}{intro:sentences(2)}",
      "the excerpt (its first sentence) the first paragraph (its first sentence) the first paragraph (its first 2 sentences)",
    ],
    [
      "{price:number} {price:number(1)} {price:number(2)}",
      "the price (as a number) the price (as a number with 1 decimal) the price (as a number with 2 decimals)",
    ],
    ["{price:money(gbp)}", "the price (as money in GBP)"],
    ['{updated:date("MMM yyyy")}', "the day of the last change (as a date, “MMM yyyy”)"],
    ['{count:plural("item", "items")}', "the number of pages (counted: “item” or “items”)"],
    [
      '{name:replace("&", "and"):without(category):ascii}',
      "the name (“and” put for “&”, less what the category says, in plain Latin letters)",
    ],
    ["{name}[ – {site}]^4", "the name; then, if there is room (dropped as number 4), “ – site name”"],
    ["{name}[!]^keep", "the name; then, always, “!”"],
    [
      "{name}[ – {summary or intro} [{colour} || {finish}]]",
      "the name; then, if there is room, “ – excerpt or first paragraph [colour  or else  finish]”",
    ],
  ])("%s reads: %s", (source, words) => expect(readingOf(parseLine(source).nodes)).toBe(words));

  it("names fields of its own prototype by their own name", () =>
    expect(readingOf(parseLine("{constructor}").nodes)).toBe("the constructor"));
});

describe("the fields of a line", () => {
  it("are those that it reads, each once, those of filters too", () => {
    expect(
      fieldsOfNodes(parseLine('{summary or intro or "x":without(name)}[ {name} [{colour}]||{summary}]').nodes),
    ).toEqual(["summary", "intro", "name", "colour"]);
  });
});
