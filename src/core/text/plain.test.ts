import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { htmlParts, plainText } from "./plain";

const piece = fc.constantFrom(
  "rope",
  " ",
  "  ",
  "\n",
  "\t",
  "&amp;",
  "&lt;b&gt;",
  "&nbsp;",
  "<b>",
  "</b>",
  "<p>",
  "</p>",
  "<br>",
  "<",
  ">",
  "&",
  "\u00a0",
  "\u200b",
  "\u202e",
  "\ufeff",
  "\u0007",
  "é",
  "🛟",
  "\ud83d",
  "“",
  "<h2>",
  "</h2>",
  "<img alt='x'>",
  "<!-- c -->",
  "<script>bad()</script>",
  "1 < 2",
);
const anyHtml = fc.array(piece, { maxLength: 30 }).map((parts) => parts.join(""));

describe("a value as plain text", () => {
  it.each([
    ["Rope &amp; <b>twine</b>  kit", "Rope & twine kit"],
    ["  Rope\n\tkit ", "Rope kit"],
    ["<p>One.</p><p>Two.</p>", "One. Two."],
    ["<ul><li>one</li><li>two</li></ul>", "one two"],
    ["un<b>der</b>way", "underway"],
    ["&lt;b&gt; is bold", "<b> is bold"],
    // Entities are decoded once: what was written for `&amp;amp;` was meant to be read as `&amp;`.
    ["Fish &amp;amp; chips", "Fish &amp; chips"],
    ["3 < 4 & 5 > 2", "3 < 4 & 5 > 2"],
    ["<script>let x = '<p>';</script>Text<style>p{}</style>", "Text"],
    ["soft\u00adhyphen, zero\u200bwidth, \u202eright to left", "softhyphen, zerowidth, right to left"],
    ["no\u00a0break\u3000space", "no break space"],
    ["broken \ud83d letter", "broken letter"],
    ["whole 🛟 letter", "whole 🛟 letter"],
    ["<!-- note -->kept", "kept"],
    ["", ""],
  ])("%j reads %j", (value, text) => expect(plainText(value)).toBe(text));

  it("has no tag, no double space, no end of white space and nothing invisible, whatever comes in", () => {
    fc.assert(
      fc.property(anyHtml, (html) => {
        const text = plainText(html);
        expect(text).not.toMatch(/ {2}|^ | $|[\u0000-\u001f\u007f-\u009f\u00ad\u200b\u200e\u200f\u202a-\u202e\ufeff]/);
        // What looks like a tag after that was written as a text about one.
        if (!html.includes("&lt;")) expect(text).not.toMatch(/<\/?(b|p|h2|br|img)\b/);
        expect(text).not.toMatch(/[\ud800-\udbff](?![\udc00-\udfff])/);
      }),
      { numRuns: 2000 },
    );
  });

  it("is as it is where nothing is to be done", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-zé]+( [a-zé]+){0,5}$/), (text) => {
        expect(plainText(text)).toBe(text);
      }),
      { numRuns: 500 },
    );
  });
});

describe("white space and what is invisible", () => {
  const oracle = (text: string) =>
    text
      .replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, "")
      .replace(/[\t\n\v\f\r]/g, " ")
      .replace(
        /[\u0000-\u0008\u000e-\u001f\u007f-\u009f\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g,
        "",
      )
      .replace(/\s+/g, " ")
      .trim();
  const bits = fc.constantFrom(
    "a",
    "b",
    "é",
    " ",
    "  ",
    "\t",
    "\n",
    "\u00a0",
    "\u3000",
    "\u2028",
    "\u200b",
    "\ufeff",
    "\u0007",
    "\ud83d",
    "\udef6",
    "🛟",
    ".",
  );

  it("are what step by step replacing makes of them", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(bits, { maxLength: 25 }).map((all) => all.join("")),
          fc.string({ unit: "binary", maxLength: 40 }),
        ),
        (text) => {
          // Without tags and entities nothing else is done to a text.
          if (/[<&]/.test(text)) return;
          expect(plainText(text)).toBe(oracle(text));
        },
      ),
      { numRuns: 5000 },
    );
  });
});

describe("the parts of a body", () => {
  it.each([
    [
      "<h2>Care &amp; use</h2><p>Oil it.</p><img alt='An oar'><img src=x>",
      "Care & use Oil it.",
      ["Care & use"],
      ["An oar", ""],
    ],
    ["Plain text", "Plain text", [], []],
    ["<h1>Not below</h1><h3>Below <em>it</em></h3><h6>Last</h6>", "Not below Below it Last", ["Below it", "Last"], []],
    ['<H2>Loud</H2><IMG ALT="An &quot;oar&quot;">', "Loud", ["Loud"], ['An "oar"']],
    ["<img alt=one alt=two><a alt=three>x</a>", "x", [], ["one"]],
    ["<h2>Never closed", "Never closed", ["Never closed"], []],
    ["<h2></h2><img alt='  '>", "", [""], [""]],
    ["<h2>The &lt;b&gt; tag</h2><img alt='a &lt;p&gt;'>", "The <b> tag", ["The <b> tag"], ["a <p>"]],
  ])("of %j", (html, text, subheadings, images) => expect(htmlParts(html)).toEqual({ text, subheadings, images }));

  it("have the same text as its plain text", () => {
    fc.assert(
      fc.property(anyHtml, (html) => {
        expect(htmlParts(html).text).toBe(plainText(html));
      }),
      { numRuns: 2000 },
    );
  });

  it("hold as many images as there are, each described by its first alt", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(null, "", "oar", "a & b", "<x>"), { maxLength: 8 }), (alts) => {
        const html = alts
          .map((alt) =>
            alt === null
              ? "<p>t</p><img src='a.png'>"
              : `<img src="a.png" alt="${alt.replaceAll("&", "&amp;").replaceAll("<", "&lt;")}" alt="other">`,
          )
          .join("");
        expect(htmlParts(html).images).toEqual(alts.map((alt) => alt ?? ""));
      }),
      { numRuns: 500 },
    );
  });
});
