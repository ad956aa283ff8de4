import { describe, expect, it } from "vitest";
import { SURFACES } from "../measure/surface";
import { DEMO_SITE } from "../../demo/site";
import { limitsOf } from "./design";
import { type Site } from "./schema";
import {
  fittedSurfaces,
  withFitted,
  withKnownFigures,
  withNewSurface,
  withoutSurface,
  withSurface,
} from "./site-surfaces";

const BLANK: Site = { ...DEMO_SITE, surfaces: [], limits: {} };
const [desktop] = SURFACES;
const changed = (site: Site, change: Partial<Site>): Site => ({ ...site, ...change });
const idsOf = ({ surfaces }: Pick<Site, "surfaces">) => surfaces.map(({ id }) => id);

describe("the surfaces of a site", () => {
  it("have the desktop's to be fitted where nothing is said, as measuring has it", () => {
    for (const text of ["title", "description"] as const) {
      expect(fittedSurfaces(BLANK, text)).toEqual([`desktop-${text}`]);
      expect(limitsOf(BLANK, text).surfaces.map(({ id }) => id)).toEqual([`desktop-${text}`]);
    }
  });

  it("keep other figures of a known one, until they are those that it has anyway", () => {
    const wider = changed(BLANK, withSurface(BLANK, { ...desktop!, width: 560 }));
    expect(wider.surfaces).toEqual([{ ...desktop, width: 560 }]);
    const again = changed(wider, withSurface(wider, { ...desktop!, width: 580 }));
    expect(again.surfaces).toEqual([{ ...desktop, width: 580 }]);
    expect(withSurface(again, { ...desktop! }).surfaces).toEqual([]);
    expect(withKnownFigures(again, desktop!.id).surfaces).toEqual([]);
  });

  it("have more of the site's own, each with an id that none has", () => {
    const one = changed(BLANK, withNewSurface(BLANK));
    const two = changed(one, withNewSurface(one));
    expect(idsOf(two)).toEqual(["own-1", "own-2"]);
    const second = changed(two, withoutSurface(two, "own-1"));
    expect(idsOf(withNewSurface(second))).toEqual(["own-2", "own-1"]);
  });

  it("are fitted in the order that they stand in, and not any more once they are gone", () => {
    let site = changed(BLANK, withNewSurface(BLANK));
    for (const id of ["own-1", "phone-title"]) site = changed(site, withFitted(site, "title", id, true));
    expect(fittedSurfaces(site, "title")).toEqual(["desktop-title", "phone-title", "own-1"]);
    site = changed(site, withFitted(site, "title", "desktop-title", false));
    expect(fittedSurfaces(site, "title")).toEqual(["phone-title", "own-1"]);
    expect(fittedSurfaces(site, "description")).toEqual(["desktop-description"]);
    site = changed(site, withoutSurface(site, "own-1"));
    expect(fittedSurfaces(site, "title")).toEqual(["phone-title"]);
    expect(site.limits.description).toBeUndefined();
    site = changed(site, withFitted(site, "title", "phone-title", false));
    expect(limitsOf(site, "title").surfaces).toEqual([]);
  });

  it("keep the most characters of a text", () => {
    const site = { ...BLANK, limits: { title: { chars: 60 } } };
    expect(withFitted(site, "title", "tab", true).limits.title).toEqual({
      chars: 60,
      surfaces: ["desktop-title", "tab"],
    });
    expect(withoutSurface(site, "own-1").limits.title).toEqual({ chars: 60 });
  });
});
