import fc from "fast-check";
import { expect, it } from "vitest";
import { ChangeList } from "./change-list";
import { CHANGE_GROUPS, type ChangeGroup } from "./groups";

const change = fc.record({
  unit: fc.integer({ min: 0, max: 400 }),
  row: fc.integer({ min: 0, max: 2 ** 31 - 1 }),
  group: fc.constantFrom(...CHANGE_GROUPS),
});

it("gives back what was put in, whatever the number", () => {
  fc.assert(
    fc.property(fc.array(change, { maxLength: 400 }), (changes) => {
      const list = new ChangeList();
      for (const { unit, row, group } of changes) list.add(unit, row, group);
      expect(list.length).toBe(changes.length);
      expect(
        changes.map((_, place) => ({ unit: list.unitOf(place), row: list.rowOf(place), group: list.groupOf(place) })),
      ).toEqual(changes);
    }),
    { numRuns: 300 },
  );
});

it("has every change in its own group's places only, in their order", () => {
  fc.assert(
    fc.property(fc.array(change, { maxLength: 200 }), (changes) => {
      const list = new ChangeList();
      for (const { unit, row, group } of changes) list.add(unit, row, group);
      for (const group of CHANGE_GROUPS)
        expect([...list.ofGroup(group)]).toEqual(changes.flatMap((own, place) => (own.group === group ? [place] : [])));
    }),
    { numRuns: 300 },
  );
});

it("counts a change that is added after a group was asked for", () => {
  const list = new ChangeList();
  const places = (group: ChangeGroup) => [...list.ofGroup(group)];
  list.add(0, 7, "moves");
  expect(places("moves")).toEqual([0]);
  list.add(3, 8, "moves");
  expect(places("moves")).toEqual([0, 1]);
  expect(places("worse")).toEqual([]);
});
