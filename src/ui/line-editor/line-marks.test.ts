import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lineMarks } from "./line-marks";

const marked = (source: string) => lineMarks(source).map(({ from, to, mark }) => [mark, source.slice(from, to)]);

describe("the marks of a line", () => {
  it("set off fields, pieces, their brackets and carets, the outer before the inner", () => {
    expect(marked("{name}[ in {finish}]^2")).toEqual([
      ["field", "{name}"],
      ["piece", "[ in {finish}]^2"],
      ["bracket", "["],
      ["field", "{finish}"],
      ["bracket", "]"],
      ["caret", "^2"],
    ]);
  });

  it("say where an error is, at the end of the line too", () => {
    expect(marked("{name").filter(([mark]) => mark === "error").length).toBeGreaterThan(0);
  });

  it("lie in the line and in order, whatever is typed", () => {
    const typed = fc.array(fc.constantFrom("{", "}", "[", "]", "^", "||", "name", ":", "2", " ", "apart", "é"));
    fc.assert(
      fc.property(typed, (pieces) => {
        const source = pieces.join("");
        let last = 0;
        for (const { from, to } of lineMarks(source)) {
          expect(from).toBeGreaterThanOrEqual(last);
          expect(to).toBeGreaterThan(from);
          expect(to).toBeLessThanOrEqual(source.length);
          last = from;
        }
      }),
    );
  });
});
