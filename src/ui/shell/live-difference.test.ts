import { describe, expect, it } from "vitest";
import { liveDifference } from "./live-difference";

describe("what differs from live", () => {
  it.each([
    [{ title: 0, description: 0, slug: 0, address: 0 }, "Same as live"],
    [{ title: 1, description: 0, slug: 0, address: 0 }, "1 title differs from live"],
    [{ title: 12_480, description: 0, slug: 1, address: 0 }, "12,480 titles, 1 slug differ from live"],
    [{ title: 0, description: 0, slug: 0, address: 876 }, "876 addresses differ from live"],
  ])("%o: %s", (changed, words) => expect(liveDifference(changed)).toBe(words));
});
