import { describe, expect, it } from "vitest";
import { itemSetOf, type ItemRecord } from "../proof/items";
import { proveLine } from "../proof/prove-line";
import { parseLine } from "./parse";
import { type Part, tidyParts } from "./tidy";

const textOf = (source: string, item: ItemRecord, max: number | null = null) =>
  proveLine(parseLine(source), itemSetOf([item]), { limits: { surfaces: [], chars: max } })[0]!.text;

describe("brackets and quotation marks", () => {
  it.each<[string, ItemRecord, string]>([
    ["{name} ({category})", { name: "Rope" }, "Rope"],
    ["{name} ({category})", { name: "Rope", category: "Deck" }, "Rope (Deck)"],
    ["{name} ({size} – {colour})", { name: "Rope" }, "Rope"],
    ["{name} ({size} – {colour})", { name: "Rope", colour: "red" }, "Rope (red)"],
    ["{name} ({size} – {colour})", { name: "Rope", size: "8 mm" }, "Rope (8 mm)"],
    ["{name} ({size}, {colour})", { name: "Rope", size: "8 mm" }, "Rope (8 mm)"],
    ["{name} ({size}, {colour})", { name: "Rope", colour: "red" }, "Rope (red)"],
    ["{name} (“{colour}”)", { name: "Rope" }, "Rope"],
    ['{name} "{colour}" here', { name: "Rope" }, "Rope here"],
    ["{name} „{colour}“", { name: "Tau", colour: "rot" }, "Tau „rot“"],
    ["{name} [({size})]", { name: "Rope" }, "Rope"],
    ["{name} ({size})({colour})", { name: "Rope" }, "Rope"],
    ["call() {name}", { name: "Rope" }, "call() Rope"],
    ["{name} ( {colour} )", { name: "Rope", colour: "red" }, "Rope ( red )"],
  ])("%s of %j is %j", (source, item, expected) => expect(textOf(source, item)).toBe(expected));
});

describe("& and +", () => {
  it.each<[string, ItemRecord, string]>([
    ["{name} & {category}", { name: "Rope" }, "Rope"],
    ["{name} & {category}", { category: "Deck" }, "Deck"],
    ["{name} & {category}", { name: "Rope", category: "Deck" }, "Rope & Deck"],
    ["{name} + {category} – {site}", { name: "Rope", site: "Dray" }, "Rope – Dray"],
    ["{name} – {category} & {site}", { name: "Rope", site: "Dray" }, "Rope – Dray"],
    ["{name}, {category} & {site}", { name: "Rope", site: "Dray" }, "Rope, Dray"],
    ["R&D {name}", { name: "Rope" }, "R&D Rope"],
    ["{name} & Co", {}, "Co"],
  ])("%s of %j is %j", (source, item, expected) => expect(textOf(source, item)).toBe(expected));
});

describe("two full stops", () => {
  it.each<[string, ItemRecord, number | null, string]>([
    ["{summary}. In stock", { summary: "Soft in the hand." }, null, "Soft in the hand. In stock"],
    ["{summary}. In stock", { summary: "Soft in the hand" }, null, "Soft in the hand. In stock"],
    ["{summary}. In stock", { summary: "Soft in the hand…" }, null, "Soft in the hand…. In stock"],
    ["{summary}[. {name}]", { summary: "Soft.", name: "Rope" }, null, "Soft. Rope"],
    ["{summary}[. {name}]", { summary: "Soft." }, null, "Soft."],
    ["{summary} {name}", { summary: "Soft.", name: "Rope" }, null, "Soft. Rope"],
    ["{summary}...", { summary: "Soft." }, null, "Soft...."],
    ["{summary:fit}. Buy", { summary: "Soft in the hand." }, null, "Soft in the hand. Buy"],
    ["{summary:fit}. Buy", { summary: "Soft in the hand." }, 12, "Soft in. Buy"],
  ])("of %s of %j within %j become one: %j", (source, item, max, expected) =>
    expect(textOf(source, item, max)).toBe(expected),
  );
});

describe("tidying parts", () => {
  it.each<[readonly Part[], readonly Part[]]>([
    [
      [0, " – ", " | ", 1],
      [0, " – ", 1],
    ],
    [[0, " (", ")"], [0]],
    [
      [0, " (", " – ", 1, ")"],
      [0, " (", 1, ")"],
    ],
    [["(", ")"], []],
    [[" – ", 0], [0]],
  ])("%j are %j", (parts, expected) => expect(tidyParts(parts)).toEqual(expected));
});
