import { describe, expect, it } from "vitest";
import { nextStep } from "./next-step";

describe("what is to be done next", () => {
  it.each([
    [{ pages: 0, lines: 0, changes: 0, run: false }, "pages"],
    [{ pages: 0, lines: 3, changes: 0, run: true }, "pages"],
    [{ pages: 5, lines: 0, changes: 0, run: false }, "line"],
    [{ pages: 5, lines: 1, changes: 4, run: false }, "review"],
    [{ pages: 5, lines: 1, changes: 0, run: false }, "none"],
    [{ pages: 5, lines: 1, changes: null, run: false }, "review"],
    [{ pages: 5, lines: 1, changes: 4, run: true }, "none"],
    [{ pages: 5, lines: 0, changes: 0, run: true }, "none"],
  ])("with %j is %s", ({ pages, lines, changes, run }, step) =>
    expect(nextStep(pages, lines, changes, run)).toBe(step),
  );
});
