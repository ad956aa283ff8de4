import { describe, expect, it } from "vitest";
import { seeded } from "../demo/random";
import { storm } from "./storm";

/** `npm run storm` blows harder. */
const isWhole = process.env["STORM"] === "1";
const SIZE = isWhole ? { pages: 10_000, kills: 100 } : { pages: 90, kills: 3 };

/** Requests a second: as many as make it last. */
const PACE = isWhole ? { flat: 40, nested: 90 } : { flat: 15, nested: 35 };

describe("a run over the wire", () => {
  it.each(["flat", "nested"] as const)(
    "over the %s interface is settled whatever is killed and goes wrong: nothing twice, nothing lost",
    async (face) => {
      const figures = await storm({
        face,
        ...SIZE,
        perSecond: PACE[face],
        random: seeded(isWhole ? Date.now() : 7).next,
      });
      if (isWhole) process.stdout.write(`${face}: ${JSON.stringify(figures)}\n`);
      expect(figures.wrong).toEqual([]);
      expect(figures.confirmed + figures.refused + figures.changed).toBe(figures.changes);
      expect(figures.changes).toBeGreaterThanOrEqual(SIZE.pages);
      expect(figures.confirmed).toBeGreaterThan(figures.changes / 2);
    },
    isWhole ? 3_600_000 : 240_000,
  );
});
