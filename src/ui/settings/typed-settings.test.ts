import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { type Site } from "../../core/design/design";
import { goingOnFrom } from "./typed-settings";

const slug = (change: Partial<Site["slug"]>): Site => ({ ...DEMO_SITE, slug: { ...DEMO_SITE.slug, ...change } });

describe("settings that are typed while another window stores some", () => {
  it("go on from what is stored, with what was typed", () => {
    const typed = { site: slug({ max: 40 }), of: DEMO_SITE };
    const stored = { ...slug({ dropNumbers: !DEMO_SITE.slug.dropNumbers }), tagline: "Theirs" };
    expect(goingOnFrom(stored, typed)).toEqual({
      site: { ...stored, slug: { ...stored.slug, max: 40 } },
      of: stored,
    });
  });

  it("stay as they are where both changed one value, to go out from what was stored before", () => {
    const typed = { site: slug({ max: 40 }), of: DEMO_SITE };
    expect(goingOnFrom({ ...slug({ max: 30 }), tagline: "Theirs" }, typed)).toBe(typed);
    expect(
      goingOnFrom({ ...DEMO_SITE, fixedWords: ["x"] }, { site: { ...DEMO_SITE, fixedWords: ["y"] }, of: DEMO_SITE }),
    ).toMatchObject({ of: DEMO_SITE });
  });

  it("are those that are stored where nothing was typed, or the same", () => {
    const stored = slug({ max: 30 });
    for (const site of [DEMO_SITE, stored])
      expect(goingOnFrom(stored, { site, of: DEMO_SITE })).toEqual({ site: stored, of: stored });
  });

  it("lose no change of either, whichever is taken first", () => {
    const values = fc.record(
      { name: fc.constantFrom("A", "B"), tagline: fc.constantFrom("C", "D"), max: fc.constantFrom(30, 40) },
      { requiredKeys: [] },
    );
    const changed = ({ max, ...rest }: { name?: string; tagline?: string; max?: number }): Site => ({
      ...DEMO_SITE,
      ...rest,
      slug: { ...DEMO_SITE.slug, ...(max === undefined ? {} : { max }) },
    });
    fc.assert(
      fc.property(values, values, (mine, theirs) => {
        const { site, of } = goingOnFrom(changed(theirs), { site: changed(mine), of: DEMO_SITE });
        const keys = Object.keys(mine) as (keyof typeof mine)[];
        const clash = keys.some((key) => theirs[key] !== undefined && theirs[key] !== mine[key]);
        expect(site).toEqual(clash ? changed(mine) : changed({ ...theirs, ...mine }));
        expect(of).toEqual(clash ? DEMO_SITE : changed(theirs));
      }),
    );
  });
});
