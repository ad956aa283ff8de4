import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { InTurn } from "./in-turn";

describe("things done in turn", () => {
  it("begin in the order they were asked for, one at a time, whatever each takes and however it ends", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ takes: fc.nat(3), fails: fc.boolean() }), { maxLength: 12 }),
        async (works) => {
          const turns = new InTurn();
          const begun: number[] = [];
          let underWay = 0;
          const ends = works.map(({ takes, fails }, i) =>
            turns.do(async () => {
              begun.push(i);
              expect(++underWay).toBe(1);
              for (let tick = 0; tick < takes; tick++) await Promise.resolve();
              underWay--;
              if (fails) throw new Error(`${i}`);
              return i;
            }),
          );
          expect(turns.isIdle).toBe(works.length === 0);
          const settled = await Promise.allSettled(ends);
          expect(begun).toEqual(works.map((_, i) => i));
          expect(settled.map(({ status }) => status === "rejected")).toEqual(works.map(({ fails }) => fails));
          expect(turns.isIdle).toBe(true);
        },
      ),
    );
  });

  it("are idle by the time the last one’s end is heard of, and not before", async () => {
    const turns = new InTurn();
    const heard = [1, 2].map((i) => turns.do(() => Promise.resolve(i)).then(() => turns.isIdle));
    expect(await Promise.all(heard)).toEqual([false, true]);
  });
});
