import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { languageByTag } from "../text/language";
import { placeKeyword, Vocabulary } from "./place";

const vocabulary = new Vocabulary(languageByTag("en"));
const place = (keyword: string, text: string) => placeKeyword(vocabulary, vocabulary.keyword(keyword)!, text);

describe("keyword placement", () => {
  it.each(
    readCases<{ keyword: string; text: string; form: string; word: number; char: number; count: number }>(
      "place.jsonl",
      "sharper-place.jsonl",
    ),
  )("$keyword in “$text” is $form", ({ keyword, text, ...expected }) =>
    expect(place(keyword, text)).toMatchObject(expected),
  );

  it.each([
    ["rope", "The ROPE’s end", "variant", 2],
    ["rope", "Europe by boat", "absent", null],
    ["splicing rope", "How to splice ropes", "variant", 3],
    ["rope for boats", "Paint for decks", "absent", null],
    ["канаты", "Тросы и Канаты", "exact", 3],
    ["d'or", "Ancre d’or", "exact", 2],
    ["O’Brien ropes", "o'brien rope", "variant", 1],
    ["école", "L'affiche de l’é\u0301cole e\u0301cole", "exact", 4],
    ["cafe\u0301 rope", "Café rope", "exact", 1],
    ["Ærø twine", "ærø twine, waxed", "exact", 1],
  ])("%s in “%s” is %s", (keyword, text, form, word) => expect(place(keyword, text)).toMatchObject({ form, word }));

  it("has nothing to look for in a keyword without words", () => expect(vocabulary.keyword(" – ")).toBeNull());

  it("finds a keyword exactly wherever it is put among other words, and counts it", () => {
    const word = fc.stringMatching(/^[a-z]{2,8}$/);
    fc.assert(
      fc.property(
        fc.array(word, { minLength: 1, maxLength: 3 }),
        fc.array(fc.stringMatching(/^[0-9]{1,4}$/), { maxLength: 8 }),
        fc.integer({ min: 1, max: 3 }),
        (keyword, before, times) => {
          const text = [...before, ...Array.from({ length: times }, () => `${keyword.join(" ").toUpperCase()},`)].join(
            " ",
          );
          expect(place(keyword.join(" "), text)).toMatchObject({
            form: "exact",
            word: before.length + 1,
            count: times,
          });
        },
      ),
      { numRuns: 1000 },
    );
  });
});
