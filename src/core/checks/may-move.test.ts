import { describe, expect, it } from "vitest";
import { languageByTag } from "../text/language";
import { MOVES_ANYWAY, movingBits, slugFaultBits } from "./may-move";
import { SLUG_FAULTS } from "./slug-fault-ids";

const bounds = { max: 20, depth: 2, language: languageByTag("en") };
const faults = (path: string) => {
  const bits = slugFaultBits({ path, slug: path.split("/").at(-1)! }, bounds);
  return SLUG_FAULTS.filter((_, i) => (bits & (1 << i)) !== 0);
};

describe("what is wrong with a slug by itself", () => {
  it.each([
    ["/rope/twine", []],
    ["/rope/a-very-long-slug-of-many-words", ["too-many-characters", "stop-words"]],
    ["/rope/2019-oar", ["numbers"]],
    ["/Rope/Oar_new", ["capitals", "underscores"]],
    ["/rope/öl", ["non-ascii"]],
    ["/a/b/c/d", ["too-deep"]],
  ])("%s: %j", (path, expected) => expect(faults(path)).toEqual(expected));
});

it("a design lets pages with an address move for none, for some faults, for all, or in any case", () => {
  const both = slugFaultBits({ path: "/x/Oar_new", slug: "Oar_new" }, bounds);
  const allows = (design: Parameters<typeof movingBits>[0]) => (both & movingBits(design)) !== 0;
  expect(movingBits({})).toBe(0);
  expect(movingBits({ moves: "new", movesFor: ["capitals"] })).toBe(0);
  expect(allows({ moves: "found" })).toBe(true);
  expect(allows({ moves: "found", movesFor: ["underscores"] })).toBe(true);
  expect(allows({ moves: "found", movesFor: ["numbers"] })).toBe(false);
  expect(movingBits({ moves: "all" })).toBe(MOVES_ANYWAY);
});
