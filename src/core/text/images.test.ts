import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { imageFile, imagesOf, withAlt, withTag } from "./images";
import { htmlParts } from "./plain";

describe("the images of a body", () => {
  it("are told in their order, with what is said of them and the very tag", () => {
    const body = `<p>Oil it.</p><IMG SRC=/a.jpg><img alt='An &amp; oar' src="/b.jpg"/>\n<img\n  src="/c>d.jpg"\n  alt>`;
    const images = imagesOf(body);
    expect(images.map(({ number, src, alt }) => [number, src, alt])).toEqual([
      [1, "/a.jpg", ""],
      [2, "/b.jpg", "An & oar"],
      [3, "/c>d.jpg", ""],
    ]);
    for (const { tag, from, to } of images) expect(body.slice(from, to)).toBe(tag);
    expect(images[2]!.tag).toBe(`<img\n  src="/c>d.jpg"\n  alt>`);
  });

  it("are none in scripts, comments and text", () => {
    expect(imagesOf("<!-- <img src=a> --><script>'<img src=b>'</script>&lt;img src=c> x <imgs>")).toEqual([]);
  });

  it("are as many as what says what is wrong with a page counts", () => {
    const piece = fc.constantFrom(
      "<img src=a>",
      "<img alt='x y' src='b'>",
      "<p>",
      "</p>",
      "<!--",
      "-->",
      "text",
      "<script>",
      "</script>",
      "<img alt",
      ">",
      '"',
      "'",
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const body = pieces.join("");
        expect(imagesOf(body).map(({ alt }) => alt)).toEqual(htmlParts(body).images);
      }),
      { numRuns: 500 },
    );
  });
});

describe("what is said of an image", () => {
  const value = fc.string({ unit: fc.constantFrom("a", "é", " ", "&", '"', "'", "<", ">", "=", "/", "alt=", "&amp;") });
  const written = fc.oneof(
    value.map((text) => `"${text.replaceAll('"', "")}"`),
    value.map((text) => `'${text.replaceAll("'", "")}'`),
    fc.constantFrom("x", "/i/a.jpg", "x=y"),
  );
  const attribute = fc
    .tuple(
      fc.constantFrom("src", "alt", "ALT", "data-alt", "title", "loading", "alt-text"),
      fc.option(fc.tuple(fc.constantFrom("=", " = ", "=\n"), written)),
    )
    .map(([name, rest]) => name + (rest ? rest.join("") : ""));
  const tag = fc
    .tuple(fc.array(fc.tuple(fc.constantFrom(" ", "\n", "  ", " / "), attribute)), fc.constantFrom("", " ", "/", " /"))
    .map(([attributes, end]) => `<img${attributes.map((part) => part.join("")).join("")}${end}>`)
    // An unquoted value takes the slash of a tag's end with it.
    .filter((text) => imagesOf(text).length === 1 && imagesOf(text)[0]!.tag === text);

  it("is read back as it was written, and nothing else of the tag is another", () => {
    fc.assert(
      fc.property(tag, value, value, (before, text, next) => {
        const after = withAlt(before, text);
        const [image, ...more] = imagesOf(`<p>${after}</p>`);
        expect(more).toEqual([]);
        expect(image!.tag).toBe(after);
        expect(image!.src).toBe(imagesOf(before)[0]!.src);
        expect(image!.alt).toBe(text.replace(/\s+/g, " ").trim());
        // Written twice it is as if it had been written once.
        expect(withAlt(after, next)).toBe(withAlt(before, next));
      }),
      { numRuns: 1000 },
    );
  });

  it("is written into the body at the image, all other bytes the same", () => {
    const body = '<p>One</p><img src="/a.jpg"><p>Two &amp; three</p><img src="/b.jpg" alt="">';
    const [, second] = imagesOf(body);
    expect(withTag(body, second!, withAlt(second!.tag, 'A "b"'))).toBe(
      '<p>One</p><img src="/a.jpg"><p>Two &amp; three</p><img src="/b.jpg" alt="A &quot;b&quot;">',
    );
  });
});

describe("an image’s file", () => {
  it.each([
    ["/i/notes/waxed-thread_02.jpg", "waxed thread 02"],
    ["https://cdn.fennickdray.example/a%20b+c-1024x768.webp?v=3#x", "a b c"],
    ["oar", "oar"],
    ["/i/100%.png", "100%"],
    ["", ""],
  ])("%s is “%s”", (src, words) => expect(imageFile(src)).toBe(words));
});
