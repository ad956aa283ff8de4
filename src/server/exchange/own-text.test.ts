import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ownText } from "./own-text";
import { TwiceFinder } from "./twice-finder";

setFlagsFromString("--expose-gc");
const collect = runInNewContext("gc") as () => void;

/** By how many MB there is more in memory after something was done, for as long as what it returns is kept. */
function keptMb(work: () => unknown): number {
  collect();
  const before = process.memoryUsage().heapUsed;
  const kept = work();
  collect();
  const after = process.memoryUsage().heapUsed;
  return kept === undefined ? NaN : (after - before) / 1048576;
}

/** A row of a file as it is read: its address is cut out of all that stands on it. */
const addressOf = (n: number) => `/lots/number-${n},${"summary ".repeat(500)}${n}`.split(",")[0]!;

describe("a text held by itself", () => {
  it("is the same", () => {
    fc.assert(fc.property(fc.string({ unit: "binary" }), (text) => ownText(text) === text));
    expect(ownText("/möwe/\ud800 \u{1f6a2}")).toBe("/möwe/\ud800 \u{1f6a2}");
  });

  it("keeps nothing of what it was cut out of", () => {
    const cut = (of: (text: string) => string) => Array.from({ length: 5000 }, (_, n) => of(addressOf(n)));
    expect(keptMb(() => cut((text) => text))).toBeGreaterThan(15);
    expect(keptMb(() => cut(ownText))).toBeLessThan(5);
  });

  it("is what finding rows twice remembers", () => {
    const seen = () => {
      const twice = new TwiceFinder();
      for (let n = 0; n < 5000; n++)
        twice.reasonToRefuse({ key: addressOf(n), kind: "product", path: addressOf(n) }, n);
      return twice;
    };
    expect(keptMb(seen)).toBeLessThan(5);
  });
});
