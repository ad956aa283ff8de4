import { describe, expect, it } from "vitest";
import { timeLeft } from "./time-left";

describe("how long it takes yet", () => {
  it.each([
    [{ at: 0, done: 0 }, { at: 10_000, done: 5000 }, 20_000, "30 seconds left"],
    [{ at: 1000, done: 4000 }, { at: 6000, done: 5000 }, 65_000, "5 minutes left"],
    [{ at: 0, done: 0 }, { at: 10_000, done: 19_999 }, 20_000, "1 second left"],
    [{ at: 0, done: 0 }, { at: 10_000, done: 20_000 }, 20_000, null],
    [{ at: 0, done: 0 }, { at: 1900, done: 5000 }, 20_000, null],
    [{ at: 0, done: 10 }, { at: 9000, done: 10 }, 20_000, null],
    [{ at: 0, done: 0 }, { at: 9000, done: 10 }, null, null],
  ])("from %j to %j of %j is %j", (first, now, total, words) => expect(timeLeft(first, now, total)).toBe(words));
});
