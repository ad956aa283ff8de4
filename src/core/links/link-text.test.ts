import { describe, expect, it } from "vitest";
import { LINK_FINDINGS, linkBit, linkFindingsOf, TEXTS_THAT_SAY_NOTHING } from "./finding-names";
import { isFilePath, linkTextKey } from "./link-text";

describe("what is found of links", () => {
  it("has a bit for each, and they are told apart", () => {
    for (const finding of LINK_FINDINGS) expect(linkFindingsOf(linkBit(finding))).toEqual([finding]);
    expect(linkFindingsOf(0)).toEqual([]);
  });

  it.each([
    ["Read more …", "read more"],
    ["» Click  here!", "click here"],
    ["12 mm rope", "12 mm rope"],
    ["…", ""],
  ])("reads the text “%s” as “%s”", (text, key) => expect(linkTextKey(text)).toBe(key));

  it("knows the texts that say nothing as they are compared", () => {
    for (const text of TEXTS_THAT_SAY_NOTHING) expect(linkTextKey(text)).toBe(text);
  });

  it.each([
    ["/files/splicing.pdf", true],
    ["/i/rope.jpg?v=2", true],
    ["/notes/knots.html", false],
    ["/shop.php", false],
    ["/rope/3.5", false],
    ["/rope/twine", false],
    ["/v1.pdf/rope", false],
  ])("%s is a file: %s", (path, expected) => expect(isFilePath(path)).toBe(expected));
});
