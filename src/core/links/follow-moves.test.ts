import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { linksOf, linkTagsOf, withHref } from "./body-links";
import { followedHref } from "./follow-moves";

const HOST = "https://fennickdray.example";

function followed(href: string, page: string, moves: Readonly<Record<string, string>>): string {
  const html = `<a href="${href}">x</a>`;
  const [link] = linksOf(html, HOST + page);
  const pageTo = moves[page] ?? page;
  const next = followedHref({ link: link!, pageTo, targetTo: moves[link!.path.replace(/[?#].*$/, "")] ?? null });
  return next ?? href;
}

describe("links after moves", () => {
  it.each([
    ["/rope/twine", "/notes/knots", { "/rope/twine": "/twine" }, "/twine"],
    [`${HOST}/rope/twine?x=1#care`, "/notes/knots", { "/rope/twine": "/twine" }, `${HOST}/twine?x=1#care`],
    ["/rope/line", "/notes/knots", { "/rope/twine": "/twine" }, "/rope/line"],
    // The page moves, what it leads to does not.
    ["care", "/notes/knots", { "/notes/knots": "/guides/knots" }, "/notes/care"],
    ["/notes/care", "/notes/knots", { "/notes/knots": "/guides/knots" }, "/notes/care"],
    ["care?a=1#b", "/notes/knots", { "/notes/knots": "/guides/knots" }, "/notes/care?a=1#b"],
    // Both move, side by side.
    ["care", "/notes/knots", { "/notes/knots": "/guides/knots", "/notes/care": "/guides/care" }, "care"],
    ["../rope", "/notes/knots", { "/notes/knots": "/knots", "/rope": "/ropes" }, "/ropes"],
    ["", "/notes/knots", { "/notes/knots": "/knots" }, ""],
    ["/rope/seil", "/notes/knots", { "/rope/seil": "/rope/Drähte" }, "/rope/Drähte"],
  ])("%s on %s", (href, page, moves, expected) =>
    expect(followed(href, page, moves as unknown as Record<string, string>)).toBe(expected),
  );

  it("lead where they led, whatever moves", () => {
    const path = fc.constantFrom("/a", "/a/b", "/a/c", "/d/e/f", "/d/e", "/g/");
    const href = fc.constantFrom(
      "b",
      "../a",
      "./c",
      "/a/b",
      "//fennickdray.example/d/e",
      "",
      "?q=1",
      "e/f",
      `${HOST}/a#x`,
    );
    const moved = fc.dictionary(path, fc.constantFrom("/n", "/n/o", "/p/q/r", "/s/"), { maxKeys: 4 });
    fc.assert(
      fc.property(path, href, moved, (page, written, moves) => {
        const html = `<p><a name="x">x</a> <a href="${written}">x</a></p>`;
        const [link] = linksOf(html, HOST + page);
        if (!link) return;
        const target = link.path.replace(/[?#].*$/, "");
        const pageTo = moves[page] ?? page;
        const next = followedHref({ link, pageTo, targetTo: moves[target] ?? null });
        const tag = linkTagsOf(html)[link.number - 1]!;
        expect(tag).toEqual({ href: link.href, from: link.from, to: link.to });
        const after = next === null ? html : withHref(html, tag, next);
        expect(linksOf(after, HOST + pageTo)[0]!.path.replace(/[?#].*$/, "")).toBe(moves[target] ?? target);
      }),
      { numRuns: 2000 },
    );
  });
});
