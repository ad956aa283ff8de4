import { SLUG_DEFAULTS } from "../slugs/options";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { languageByTag } from "../text/language";
import { type EditedField, tidyByHand } from "./hand-text";
import { replacer } from "./replace";

const tidy = (field: EditedField, raw: string) =>
  tidyByHand(field, raw, { options: SLUG_DEFAULTS, language: languageByTag("en") });
const plain = { matchCase: false, wholeWords: false, pattern: false };

describe("texts set by hand", () => {
  it.each([
    ["title", "Brass\n cleats\t\u200f for  decks\u0007", "Brass cleats for decks"],
    ["description", "<b>Cast</b> &amp; polished", "Cast & polished"],
    ["slug", "Brass Cleats & Co", "brass-cleats-and-co"],
    ["slug", "/Was für Ösen/", "was-fur-osen"],
    ["keyword", "  mooring   cleat ", "mooring cleat"],
    ["keyword", "", ""],
    ["robots", "NOINDEX", "noindex, follow"],
  ] as [EditedField, string, string][])("%s %j", (field, raw, value) => expect(tidy(field, raw)).toEqual({ value }));

  it.each([
    ["title", " \n ", /is empty/],
    ["title", "x".repeat(1_000_000), /is 1,000,000 characters long; at most 2,000/],
    ["title", "x".repeat(2001), /at most 2,000/],
    ["slug", "…", /no letter or digit/],
    ["robots", "maybe", /is no robots setting/],
  ] as [EditedField, string, RegExp][])("refuse %s %#", (field, raw, why) => {
    const tidied = tidy(field, raw);
    expect("refused" in tidied && tidied.refused).toMatch(why);
  });

  it("are on one line, with no character that is not seen, whatever was pasted", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 200 }), (raw) => {
        const tidied = tidy("title", raw);
        if ("value" in tidied) {
          expect(tidied.value).not.toMatch(
            /[\u0000-\u001f\u007f-\u009f\u200b\u200e\u200f\u202a-\u202e\u2066-\u2069]|^\s|\s$|\s\s/,
          );
          expect(tidy("title", tidied.value)).toEqual(/[<&]/.test(tidied.value) ? expect.anything() : tidied);
        }
      }),
      { numRuns: 2000 },
    );
  });
});

describe("find and replace", () => {
  it.each([
    [{ ...plain, find: "cleat", replace: "clamp" }, "Cleats and a Cleat", "clamps and a clamp"],
    [{ ...plain, find: "cleat", replace: "clamp", matchCase: true }, "Cleats and a cleat", "Cleats and a clamp"],
    [{ ...plain, find: "cleat", replace: "clamp", wholeWords: true }, "Cleats, a cleat", "Cleats, a clamp"],
    [{ ...plain, find: "a.b", replace: "$1" }, "a.b axb", "$1 axb"],
    [
      { ...plain, find: "(\\d+) mm", replace: "$1 millimetres", pattern: true },
      "200 mm and 3 mm",
      "200 millimetres and 3 millimetres",
    ],
    [{ ...plain, find: "x*", replace: "-", pattern: true }, "axxb", "a-b"],
    [{ ...plain, find: "(a+)+$", replace: "", pattern: true }, "a".repeat(40) + "b", "a".repeat(40) + "b"],
  ])("%o", (options, text, made) => expect(replacer(options)(text)).toBe(made));

  it.each([
    [{ ...plain, find: "", replace: "x" }, /nothing to look for/],
    [{ ...plain, find: "(", replace: "x", pattern: true }, /is no pattern/],
    [{ ...plain, find: "(.?){1000}", replace: "x", pattern: true }, /too large a pattern.*Repeat less/],
    [{ ...plain, find: "a", replace: "$2", pattern: true }, /group that the pattern does not have/],
  ])("says what is wrong with %o", (options, why) => expect(() => replacer(options)).toThrow(why));

  it("of words by themselves leaves every text as it is", () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 60 }),
        fc.string({ minLength: 1, maxLength: 5 }),
        fc.boolean(),
        (text, find, wholeWords) => {
          expect(replacer({ find, replace: find, matchCase: true, wholeWords, pattern: false })(text)).toBe(text);
        },
      ),
      { numRuns: 1000 },
    );
  });
});
