import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { linksOf, redirectedHref, withHref } from "./body-links";

const BASE = "https://fennickdray.example/notes/knots";

describe("links of a body", () => {
  it.each(readCases<{ base: string; html: string; out: [string, string, string | null][] }>("links.jsonl"))(
    "are those that lead inside the site: $html",
    ({ base, html, out }) => expect(linksOf(html, base).map(({ path, text, rel }) => [path, text, rel])).toEqual(out),
  );

  it.each([
    ['<a href="/a">two<br>lines <b>of</b> it</a>', [["/a", "two lines of it"]]],
    [
      '<a href="/a">open <a href="/b">within</a>',
      [
        ["/a", "open"],
        ["/b", "within"],
      ],
    ],
    ['<a href="/a">never closed', [["/a", "never closed"]]],
    ['<a href="/a"><img alt="An oar"> Oars</a>', [["/a", "Oars"]]],
    ['<a href="/caf%c3%a9?q=ä">x</a>', [["/caf%C3%A9?q=%C3%A4", "x"]]],
    ["<A HREF=' /a '>x</A>", [["/a", "x"]]],
    ['<a href="//fennickdray.example/a">x</a>', [["/a", "x"]]],
    ['<a href="http://user@FennickDray.example:8080/a">x</a>', []],
    ['<a href="http://[broken">x</a><a href="">y</a>', [["/notes/knots", "y"]]],
    ['<!-- <a href="/a">x</a> --><script>"<a href=/b>x</a>"</script>', []],
    ['<a href="/a&amp;b">x &amp; y</a>', [["/a&b", "x & y"]]],
  ])("%s", (html, out) => expect(linksOf(html, BASE).map(({ path, text }) => [path, text])).toEqual(out));
});

describe("a link that leads elsewhere by now", () => {
  it.each([
    ["/old#care", "/new", "/new#care"],
    ["https://www.x.example/old?p=1#care", "/new", "https://www.x.example/new?p=1#care"],
    ["../old?p=1", "/new?q=2", "/new?q=2"],
    ["//x.example", "/new", "//x.example/new"],
  ])("%s, to %s, says %s", (href, path, expected) => expect(redirectedHref(href, path)).toBe(expected));

  const piece = fc.constantFrom(
    "<p>",
    "text & more ",
    '<a href="/one">1</a>',
    "<a class='x' href='/two' data-href=\"/two\">2</a>",
    "<a href=/three>3</a>",
    "<a href class=x>bare</a>",
    '<a data-x=">" href = "/four?a=1&amp;b=2" >4</a>',
    '<img src="/i" alt="href=/one">',
    "<!-- <a href='/one'> -->",
    "“ünï”",
  );

  it("is rewritten in the value of its href; every other byte of the body stays", () => {
    fc.assert(
      fc.property(
        fc.array(piece, { maxLength: 8 }),
        fc.nat(),
        fc.constantFrom("/new", "/n?a=1&b=\"2'", "/x y>"),
        (pieces, at, href) => {
          const html = pieces.join("");
          const links = linksOf(html, BASE);
          if (links.length === 0) return;
          const link = links[at % links.length]!;
          const after = withHref(html, link, href);
          const again = linksOf(after, BASE);
          expect(again.map((own) => own.href)).toEqual(links.map((own) => (own === link ? href.trim() : own.href)));
          const tag = after.slice(link.from, link.to + after.length - html.length);
          expect(after.slice(0, link.from)).toBe(html.slice(0, link.from));
          expect(after.slice(link.from + tag.length)).toBe(html.slice(link.to));
          // The way back is the body as it was, but for quotes that the new value needed.
          const back = withHref(after, { from: link.from, to: link.from + tag.length }, link.href);
          if (link.href !== "/three" && link.href !== "") expect(back).toBe(html);
        },
      ),
      { numRuns: 1000 },
    );
  });
});
