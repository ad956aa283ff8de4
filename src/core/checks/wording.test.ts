import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { checkWording } from "./wording";

describe("a glance at a text", () => {
  it("never passes over what a closer look finds", () => {
    const bits = [
      "cleat",
      "Cleat",
      "CLEAT",
      "of",
      "of",
      " ",
      " ",
      " ",
      "  ",
      "–",
      "|",
      ",",
      ":",
      "2019",
      "2026",
      "200",
      "'",
      "&amp;",
      "(",
      ")",
      "\u200f",
      "Ã¼",
      "\ud800",
      "{x}",
      "’s",
      "BUY",
      "NOW",
    ];
    const alone = (text: string) => {
      const all: string[] = [];
      // A text that is looked at closely for another reason has to have the same findings and that one.
      checkWording(`${text}`, 2026, (id) => all.push(id));
      return all;
    };
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...bits), { minLength: 1, maxLength: 14 }).map((parts) => parts.join("")),
        (text) => {
          const closer: string[] = [];
          checkWording(`${text} {`, 2026, (id) => closer.push(id));
          // What stands at the end of a text is told of its end.
          const inside = (ids: string[]) =>
            ids.filter((id) => !["dangling-separator", "double-space", "shouting", "repeated-words"].includes(id));
          expect(inside(alone(text))).toEqual(inside(closer));
        },
      ),
      { numRuns: 3000 },
    );
  });

  it.each([
    ["Cleat of of brass", "repeated-words"],
    ["Cleat  brass", "double-space"],
    ["Cleat –", "dangling-separator"],
    ["Cleat,", "dangling-separator"],
    [" Cleat", "double-space"],
    ["Cleat cleat", "repeated-words"],
    ["MOORING CLEATS", "shouting"],
    ["A rope TO BE OR NO more", "shouting"],
  ])("sees what is at its edges: %j", (text, id) => {
    const all: string[] = [];
    checkWording(text, 2026, (one) => all.push(one));
    expect(all).toContain(id);
  });
});
