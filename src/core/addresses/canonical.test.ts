import { describe, expect, it } from "vitest";
import { type FieldNode } from "../lines/ast";
import { parseLine } from "../lines/parse";
import { SLUG_DEFAULTS } from "../slugs/options";
import { languageByTag } from "../text/language";
import { canonicalPart, isCanonicalForm, isOwnCanonical, movedCanonical, readCanonical } from "./canonical";

const BASE = "https://fennickdray.example";

describe("a canonical", () => {
  it.each([
    ["/rope/twine", { address: "/rope/twine", isElsewhere: false, isAtOdds: false }],
    ["/caf%c3%a9#menu", { address: "/caf%C3%A9", isElsewhere: false, isAtOdds: false }],
    ["https://fennickdray.example/rope?p=1", { address: "/rope?p=1", isElsewhere: false, isAtOdds: false }],
    ["http://fennickdray.example/rope", { address: "/rope", isElsewhere: false, isAtOdds: true }],
    ["https://www.fennickdray.example/rope", { address: "/rope", isElsewhere: false, isAtOdds: true }],
    ["https://fennickdray.example:8080/rope", { address: null, isElsewhere: true, isAtOdds: false }],
    ["https://elsewhere.example/rope", { address: null, isElsewhere: true, isAtOdds: false }],
    ["rope", { address: null, isElsewhere: false, isAtOdds: false }],
    ["//fennickdray.example/rope", { address: null, isElsewhere: false, isAtOdds: false }],
    ["/rope and twine", { address: null, isElsewhere: false, isAtOdds: false }],
    ["https://[", { address: null, isElsewhere: false, isAtOdds: false }],
  ])("%s is read", (value, expected) => {
    expect(readCanonical(value, BASE)).toEqual(expected);
  });

  it("is of the site whatever its host, where the site’s is not known", () => {
    expect(readCanonical("http://a.example/rope", "")).toEqual({
      address: "/rope",
      isElsewhere: false,
      isAtOdds: false,
    });
  });

  it("is the page’s own where it says nothing, or the page’s address at the site’s host", () => {
    expect(["", "/caf%C3%A9", "/café", `${BASE}/café`].map((own) => isOwnCanonical(own, "/café", BASE))).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect(["/caf", "http://fennickdray.example/café"].map((own) => isOwnCanonical(own, "/café", BASE))).toEqual([
      false,
      false,
    ]);
    expect(isOwnCanonical("/", "", BASE)).toBe(false);
  });

  it("follows its page where it is the page’s own, in the form in which it is written, and comes back the same", () => {
    const move = { from: "/rope", to: "/ropes" };
    const back = { from: "/ropes", to: "/rope" };
    for (const own of ["/rope", `${BASE}/rope`]) {
      const moved = movedCanonical(own, move, `${BASE}/`);
      expect(moved).toBe(own.replace("/rope", "/ropes"));
      expect(movedCanonical(moved, back, BASE)).toBe(own);
    }
    for (const other of ["", "/twine", "http://fennickdray.example/rope"])
      expect(movedCanonical(other, move, BASE)).toBe(other);
  });

  it("is of slugs where a line puts it together; addresses and the page’s slug stay", () => {
    const rules = { options: { ...SLUG_DEFAULTS, dropStopWords: true }, language: languageByTag("en") };
    const part = (value: string, source: string) => {
      const field = parseLine(source).nodes[0] as FieldNode;
      return canonicalPart(value, field, rules);
    };
    expect(part("The Rope & Twine", "{category}")).toBe("rope-twine");
    expect(part("Rope & Twine › Waxed > Fine", "{category.path}")).toBe("rope-twine/waxed/fine");
    expect(part("the-rope_1", "{slug}")).toBe("the-rope_1");
    expect(part("/a/The-rope", "{like or id}")).toBe("/a/The-rope");
    expect(part("https://x.example/A", "{like}")).toBe("https://x.example/A");
  });

  it("has a form", () => {
    expect(["/", "/a b", "a", "https://x", "HTTP://x/y", "ftp://x/y", "https:///x"].map(isCanonicalForm)).toEqual([
      true,
      false,
      false,
      true,
      true,
      false,
      false,
    ]);
  });
});
