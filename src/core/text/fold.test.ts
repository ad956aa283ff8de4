import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { countWords, FOLDED_WORD, foldWord, isInnerApostrophe, wordOffsets } from "./fold";
import { emptyHash, hashText, POWER1, POWER2, powerOf, POWERS, scramble } from "./hash";

const words = (text: string) => {
  const offsets = wordOffsets(text);
  return Array.from({ length: offsets.length / 2 }, (_, i) => text.slice(offsets[2 * i], offsets[2 * i + 1]));
};
const hashOf = (text: string) => {
  const hash = emptyHash();
  hashText(text, hash);
  return hash;
};

describe("the words of a text", () => {
  it.each([
    ["Bronze mooring cleat", ["Bronze", "mooring", "cleat"]],
    ["three-strand rope", ["three", "strand", "rope"]],
    ["a ship’s chandler’s dogs'", ["a", "ship’s", "chandler’s", "dogs"]],
    ["'quoted' words", ["quoted", "words"]],
    ["8 mm, 200 mm", ["8", "mm", "200", "mm"]],
    ["Öse–Tau (Größe)", ["Öse", "Tau", "Größe"]],
    ["  ", []],
    ["", []],
    ["…!?", []],
  ])("%j are %j", (text, wanted) => expect(words(text)).toEqual(wanted));

  it("lie in the text in order, apart, and begin and end with what is part of a word", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 60 }), (text) => {
        const offsets = wordOffsets(text);
        expect(offsets.length % 2).toBe(0);
        expect(countWords(text)).toBe(offsets.length / 2);
        for (let i = 0; i < offsets.length; i += 2) {
          const [from, to] = [offsets[i]!, offsets[i + 1]!];
          expect(from).toBeLessThan(to);
          if (i > 0) expect(offsets[i - 1]!).toBeLessThan(from);
          expect(FOLDED_WORD[text.charCodeAt(from)]).not.toBe(0);
          expect(FOLDED_WORD[text.charCodeAt(to - 1)]).not.toBe(0);
        }
      }),
      { numRuns: 2000 },
    );
  });

  it("leave out nothing that is part of a word", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 40 }), (text) => {
        const inWords = new Set<number>();
        const offsets = wordOffsets(text);
        for (let i = 0; i < offsets.length; i += 2)
          for (let at = offsets[i]!; at < offsets[i + 1]!; at++) inWords.add(at);
        for (let at = 0; at < text.length; at++)
          expect(inWords.has(at)).toBe(FOLDED_WORD[text.charCodeAt(at)] !== 0 || isInnerApostrophe(text, at));
      }),
      { numRuns: 1000 },
    );
  });
});

describe("a folded word", () => {
  it("is what its letters are step by step, in every script", () => {
    const word = /[\p{L}\p{N}\p{M}]/u;
    const stepByStep = (code: number) => {
      const char = String.fromCharCode(code);
      if (code >= 0xd800 && code < 0xe000) return code;
      if (!word.test(char)) return 0;
      const lower = char.toLowerCase();
      const base = (lower.length === 1 ? lower : char).normalize("NFD").charAt(0).toLowerCase();
      return base.charCodeAt(0);
    };
    for (let code = 0; code < 65536; code++) expect(FOLDED_WORD[code], `U+${code.toString(16)}`).toBe(stepByStep(code));
  });

  it("has no capital, whatever letter it is made of", () => {
    for (let code = 0; code < 0xd800; code++) {
      const folded = FOLDED_WORD[code]!;
      if (folded !== 0)
        expect(String.fromCharCode(folded).toLowerCase(), `U+${code.toString(16)}`).toBe(String.fromCharCode(folded));
    }
  });

  it.each([
    ["Café", "cafe"],
    ["ÖLAND", "oland"],
    ["ŁÓDKA", "łodka"],
    ["cafe\u0301", "cafe"],
    ["Chandler’s", "chandler's"],
    ["İstanbul", "istanbul"],
  ])("%s is %s", (word, folded) => expect(foldWord(word)).toBe(folded));

  it("is the same whichever case it is written in, and folded again", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-zà-öø-ÿ]{1,12}$/), (word) => {
        expect(foldWord(word.toUpperCase().length === word.length ? word.toUpperCase() : word)).toBe(foldWord(word));
        expect(foldWord(foldWord(word))).toBe(foldWord(word));
      }),
      { numRuns: 1000 },
    );
  });
});

describe("the hash of a text", () => {
  it("is put together from those of its parts", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 50 }), fc.string({ maxLength: 50 }), (a, b) => {
        const [ha, hb, whole] = [hashOf(a), hashOf(b), hashOf(a + b)];
        expect(whole.exact1).toBe((Math.imul(ha.exact1, powerOf(POWER1, b.length)) + hb.exact1) | 0);
        expect(whole.exact2).toBe((Math.imul(ha.exact2, powerOf(POWER2, b.length)) + hb.exact2) | 0);
        expect(whole.folded1).toBe((Math.imul(ha.folded1, powerOf(POWER1, b.length)) + hb.folded1) | 0);
      }),
      { numRuns: 1000 },
    );
  });

  it("holds for texts longer than the table of powers", () => {
    const [a, b] = ["Rope ".repeat(300), "cleat".repeat(2000)];
    expect(b.length).toBeGreaterThan(2 * POWERS);
    expect(hashOf(a + b).exact2).toBe((Math.imul(hashOf(a).exact2, powerOf(POWER2, b.length)) + hashOf(b).exact2) | 0);
  });

  it("has the lower case of every letter, in every script", () => {
    const hash = emptyHash();
    for (let code = 0; code < 65536; code++) {
      const char = String.fromCharCode(code);
      const lower = char.toLowerCase();
      hashText(char, hash);
      const { folded1 } = hash;
      hashText(lower.length === 1 ? lower : char, hash);
      expect(folded1, `U+${code.toString(16)}`).toBe(hash.exact1);
    }
  });

  it("takes no notice of case where it is folded, and does where it is exact", () => {
    const [one, other] = [hashOf("Bronze CLEAT, Öland"), hashOf("bronze cleat, öland")];
    expect([one.folded1, one.folded2]).toEqual([other.folded1, other.folded2]);
    expect([one.exact1, one.exact2]).not.toEqual([other.exact1, other.exact2]);
  });

  it("is 0 of the empty text, and tells texts apart that differ by one letter, or by an order", () => {
    expect(hashOf("")).toEqual(emptyHash());
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 40 }), fc.string({ minLength: 1, maxLength: 40 }), (a, b) => {
        if (a === b) return;
        const [ha, hb] = [hashOf(a), hashOf(b)];
        expect([ha.exact1, ha.exact2]).not.toEqual([hb.exact1, hb.exact2]);
      }),
      { numRuns: 2000 },
    );
    expect(hashOf("ab cd").exact1).not.toBe(hashOf("cd ab").exact1);
  });

  it("scrambles no two numbers into one", () => {
    const seen = new Set(Array.from({ length: 100_000 }, (_, i) => scramble(i)));
    expect(seen.size).toBe(100_000);
  });
});
