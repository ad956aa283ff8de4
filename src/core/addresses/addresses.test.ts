import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addressOf, folderOf, lastSegment, withoutSlash } from "./addresses";

describe("an address", () => {
  it.each([
    ["/rope", "/rope"],
    ["/a b", null],
    ["https://x.example/é", "/é"],
    ["https://x.example/%C3%A9", "/é"],
    ["/%C3%A9", "/é"],
    ["/%41%2d%7E", "/A-~"],
    ["/a%2Fb", "/a%2Fb"],
    ["/a%20b", "/a%20b"],
    ["/a%C2%A0b", "/a%C2%A0b"],
    ["/100%", "/100%"],
    ["x.example/a/", "/a/"],
    ["x.example:8080/a?p=1", "/a?p=1"],
    ["x.example", "/"],
    ["https://x.example/index.php?p=1#top", "/index.php?p=1"],
    ["/?p=2", "/?p=2"],
    ["/rope#top", "/rope"],
    ["//x.example/rope", "/rope"],
    ["/a/../b/./c", "/b/c"],
    ["\u200b/rope\ufeff", "/rope"],
    ["mailto:a@b.example", null],
    ["javascript:alert(1)", null],
    ["word", null],
    ["http://", null],
    ["", null],
  ])("%j is %j", (text, expected) => expect(addressOf(text)).toBe(expected));

  it("goes without its query where the site says so", () => {
    expect(addressOf("https://x.example/rope?p=1", true)).toBe("/rope");
  });

  it("is what a browser makes of a path, whatever letters it has", () => {
    const letter = fc.constantFrom(..."/ab0-_~.?#", "..");
    fc.assert(
      fc.property(fc.array(letter, { maxLength: 12 }), (letters) => {
        const path = `/a${letters.join("")}`;
        const { pathname, search } = new URL(path, "https://x.example");
        expect(addressOf(path)).toBe(pathname.startsWith("//") ? null : pathname + search);
      }),
    );
  });

  it("is the address of itself, whatever it was made of", () => {
    const part = fc.constantFrom(
      "/",
      "a",
      "é",
      "%2F",
      "%41",
      "%C3%A9",
      "%",
      "?",
      "=",
      "&",
      "..",
      "%20",
      "%25",
      "日",
      "%E6",
    );
    fc.assert(
      fc.property(fc.array(part, { maxLength: 9 }), (parts) => {
        const address = addressOf(`/${parts.join("")}`);
        if (address !== null) expect(addressOf(address)).toBe(address);
      }),
      { numRuns: 2000 },
    );
  });

  it("has a folder and a last segment, the query aside", () => {
    expect(folderOf("/rope/twine/?p=/x/y")).toBe("/rope/");
    expect(lastSegment("/rope/twine/?p=/x/y")).toBe("twine");
    expect(withoutSlash("/rope/?p=1")).toBe("/rope?p=1");
    expect(withoutSlash("/?p=1")).toBe("/?p=1");
  });
});
