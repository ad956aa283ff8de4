import { type WorkProgress } from "../../server/workspace/watch";
import { describe, expect, it } from "vitest";
import { ago, count, counted, when } from "./format";
import { progressLine, progressWords } from "./progress-words";

const progress = (over: Partial<WorkProgress>): WorkProgress => ({
  step: "proving",
  kind: "product",
  text: "title",
  side: "draft",
  share: 0,
  ...over,
});

describe("numbers and dates in words", () => {
  it.each([
    [0, "0"],
    [999, "999"],
    [12480, "12,480"],
    [1234567, "1,234,567"],
  ])("%d is written %s", (value, words) => expect(count(value)).toBe(words));

  it.each([
    [0, "0 changes"],
    [1, "1 change"],
    [2, "2 changes"],
    [12480, "12,480 changes"],
  ])("%d counted is %s", (value, words) => expect(counted(value, "change", "changes")).toBe(words));

  it("dates have a relative hint", () => {
    expect(ago(new Date(Date.now() - 3 * 60_000).toISOString())).toBe("3 minutes ago");
    expect(when("2026-11-24T10:05:00Z")).toMatch(/^24 Nov 2026, \d{2}:05$/);
  });
});

describe("what the server is at", () => {
  it.each<[Partial<WorkProgress>, string]>([
    [{ step: "loading", text: null, side: null }, "Loading products"],
    [{}, "Setting the titles that the drafts make for products"],
    [{ side: "live", text: "slug", kind: "category" }, "Setting the slugs that categories have on the site"],
    [
      { step: "checking", text: "description", kind: "post" },
      "Checking the descriptions that the drafts make for posts",
    ],
    [{ step: "checking", text: null, side: null, kind: "post" }, "Reading what posts say"],
    [{ step: "comparing", side: null }, "Putting the titles of products beside the site’s"],
    [{ step: "weighing", text: null, side: null }, "Analysing every page"],
  ])("%o reads: %s", (over, words) => expect(progressWords(null, progress(over))).toBe(words));

  it("is told in whole percent", () => {
    expect(progressLine(null, progress({ share: 0.406 }))).toBe(
      "Setting the titles that the drafts make for products: 41 %",
    );
    expect(progressLine(null, progress({ step: "loading", text: null, side: null, share: 1 }))).toBe(
      "Loading products: 100 %",
    );
  });
});
