import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { BUILT_IN_NAMES } from "./fields";
import { parseLine } from "./parse";
import { itemSetOf, type ItemRecord } from "../proof/items";
import { proveLine } from "../proof/prove-line";

interface LineCase {
  line: string;
  item?: ItemRecord;
  items?: ItemRecord[];
  max?: number;
  out?: string | string[];
  fits?: boolean;
  empty?: string[];
  error?: { at: number; near?: string };
}

const known = {
  has: (name: string) => BUILT_IN_NAMES.has(name) || ["colour", "size", "finish", "material"].includes(name),
  names: () => BUILT_IN_NAMES,
};

describe("the contract's lines", () => {
  it.each(readCases<LineCase>("lines.jsonl", "sharper-lines.jsonl"))("$line $max", (c) => {
    const line = parseLine(c.line, known);
    if (c.error) {
      expect(line.errors[0]).toMatchObject({ from: c.error.at, ...(c.error.near ? { near: c.error.near } : {}) });
      return;
    }
    expect(line.errors).toEqual([]);
    const proved = proveLine(line, itemSetOf(c.items ?? [c.item!]), { limits: { surfaces: [], chars: c.max ?? null } });
    expect(proved.map((p) => p.text)).toEqual([c.out].flat());
    if (c.fits !== undefined) expect(proved[0]!.fits).toBe(c.fits);
    if (c.empty) expect(proved[0]!.empty).toEqual(c.empty);
  });
});

describe("a slip in a field", () => {
  it.each([
    ["{name x} and ]", [6, 13]],
    ["{name x} and {name y}", [6, 19]],
    ["{name x} – {name}", [6]],
    ["{name {name}", [0]],
    ["{name x", [0]],
  ])("is one error, and what follows it is read: %s", (source, places) =>
    expect(parseLine(source).errors.map(({ from }) => from)).toEqual(places),
  );
});
