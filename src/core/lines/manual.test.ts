import { SLUG_DEFAULTS } from "../slugs/options";
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { itemSetOf, type ItemRecord } from "../proof/items";
import { proveLine } from "../proof/prove-line";
import { BUILT_IN_NAMES } from "./fields";
import { languageByTag } from "../text/language";
import { parseLine } from "./parse";

/** The examples of the user's page, each a fenced block of `key: value` lines. */
const EXAMPLES = [...readFileSync("docs/lines.md", "utf8").matchAll(/```example\n([\s\S]*?)```/g)].map(([, block]) =>
  block!
    .trimEnd()
    .split("\n")
    .map((row) => [row.slice(0, row.indexOf(":")), row.slice(row.indexOf(":") + 2)] as const),
);
const OWN = ["finish", "colour", "material"];
const known = {
  has: (name: string) => BUILT_IN_NAMES.has(name) || OWN.includes(name),
  names: () => [...BUILT_IN_NAMES, ...OWN],
};

describe("the user's page on lines", () => {
  it("has examples", () => expect(EXAMPLES.length).toBeGreaterThan(20));

  it.each(EXAMPLES.map((example) => [example.map(([key, value]) => `${key}: ${value}`).join(" · "), example] as const))(
    "%s",
    (_, example) => {
      const get = (key: string) => example.find(([name]) => name === key)?.[1];
      const line = parseLine(get("line") ?? get("slug")!, known);
      if (get("error") !== undefined) {
        expect(line.errors[0]?.message).toBe(get("error"));
        return;
      }
      expect(line.errors).toEqual([]);
      const records = JSON.parse(get("items") ?? `[${get("item")}]`) as ItemRecord[];
      const slug = get("slug") === undefined ? null : { options: SLUG_DEFAULTS, language: languageByTag("en") };
      const max = get("max");
      const proved = proveLine(line, itemSetOf(records, new Map(), { writing: { locale: "en-GB", fixedWords: [] } }), {
        limits: { surfaces: [], chars: max === undefined ? null : Number(max) },
        ...(slug ? { slug } : {}),
      });
      expect(proved.map(({ text }) => text)).toEqual(
        example.filter(([key]) => key === "gives").map(([, text]) => text),
      );
      expect(proved.every(({ fits }) => fits)).toBe(get("fits") !== "no");
      expect(proved[0]!.empty.join(", ")).toBe(get("empty") ?? "");
    },
  );
});
