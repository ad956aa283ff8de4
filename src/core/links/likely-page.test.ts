import { describe, expect, it } from "vitest";
import { LikelyPages } from "./likely-page";

const PAGES = [
  { path: "/rope/twine/waxed-twine", name: "Waxed twine" },
  { path: "/rope/twine/tarred-twine", name: "Tarred twine" },
  { path: "/rope/twine", name: "Twine" },
  { path: "/notes/whipping-a-rope-end", name: "Whipping a rope’s end" },
  { path: "/deck/cleats/bronze-cleat.html", name: "Bronze cleat" },
  ...Array.from({ length: 40 }, (_, i) => ({ path: `/rope/line-${i}`, name: `Braided line no. ${i}` })),
];

describe("the page that a broken link most likely meant", () => {
  const pages = new LikelyPages(PAGES);
  it.each([
    ["/shop/waxed-twine", "", "/rope/twine/waxed-twine"],
    ["/twine/Waxed%20Twine.htm", "", "/rope/twine/waxed-twine"],
    ["/twine", "our twine", "/rope/twine"],
    ["/cleats/bronze-cleats-old", "bronze cleat", "/deck/cleats/bronze-cleat.html"],
    ["/p/8841", "whipping a rope", "/notes/whipping-a-rope-end"],
    ["/about-us", "about us", null],
    ["/%E0%A4", "", null],
    ["/", "", null],
  ])("%s, read as “%s”: %s", (path, text, expected) => {
    const found = pages.of(path, text);
    expect(found === null ? null : PAGES[found]!.path).toBe(expected);
  });
});
