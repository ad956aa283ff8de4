import { describe, expect, it } from "vitest";
import { readLinesFile } from "./lines-file";

const file = (kinds: object, site: object = {}) => JSON.stringify({ format: "nine-lines/1", site, kinds }, null, 2);
const read = (text: string) => () => readLinesFile("a.lines.json", text);

describe("a lines file", () => {
  it.each([
    [
      file({ product: { base: { titel: "{name}" } } }),
      /a\.lines\.json:7:9: at kinds\.product\.base: there is no key “titel”; did you mean “title”\?/,
    ],
    [
      file({ product: { base: {}, rules: [{ name: "x", when: { all: [] }, slugs: "a" }] } }),
      /at kinds\.product\.rules\.0: there is no key “slugs”; did you mean “slug”/,
    ],
    [file({}, { languages: "de" }), /:4:5: at site: there is no key “languages”; did you mean “language”/],
    [file({}, { limits: { title: { chars: 60, width: 5 } } }), /at site\.limits\.title: there is no key “width”/],
    ['{ "format": "nine-lines/1", "kind": {} }', /:1:29: there is no key “kind”/],
    ['{ "format": "nine-lines/1", ', /this is not JSON/],
  ])("with a key that is none is refused with its place: %#", (text, words) => expect(read(text)).toThrow(words));

  it("keeps conditions and formats as they are", () => {
    const when = { any: [{ field: "material", is: "brass" }] };
    const text = file(
      { product: { rules: [{ name: "x", when, title: "a" }] } },
      { formats: { product: { price: { number: "comma" } } } },
    );
    const made = read(text)();
    expect(made.kinds.product!.rules[0]!.when).toEqual(when);
    expect(made.site.formats).toEqual({ product: { price: { number: "comma" } } });
  });
});
