import { beforeEach, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { keepSettings, keptSettings } from "./kept-settings";

const items = new Map<string, string>();
const storage = {
  getItem: (name: string) => items.get(name) ?? null,
  setItem: (name: string, value: string) => void items.set(name, value),
  removeItem: (name: string) => void items.delete(name),
} as Storage;
beforeEach(() => items.clear());

it("what was typed is here again, an invalid field and all that is valid beside it", () => {
  const typed = { ...DEMO_SITE, name: "Fennick", slug: { ...DEMO_SITE.slug, max: -5 } };
  keepSettings(storage, { site: typed, of: DEMO_SITE });
  expect(keptSettings(storage, DEMO_SITE)).toEqual(typed);
});

it("only what was typed is put on settings that were saved elsewhere meanwhile", () => {
  keepSettings(storage, { site: { ...DEMO_SITE, slug: { ...DEMO_SITE.slug, max: 30 } }, of: DEMO_SITE });
  const elsewhere = { ...DEMO_SITE, tagline: "New", slug: { ...DEMO_SITE.slug, dropNumbers: true } };
  expect(keptSettings(storage, elsewhere)).toEqual({ ...elsewhere, slug: { ...elsewhere.slug, max: 30 } });
});

it("nothing is given where nothing was typed, where it was saved, or where what is kept is no settings", () => {
  expect(keptSettings(storage, DEMO_SITE)).toBeNull();
  keepSettings(storage, { site: { ...DEMO_SITE, name: "x" }, of: DEMO_SITE });
  keepSettings(storage, null);
  expect(keptSettings(storage, DEMO_SITE)).toBeNull();
  for (const odd of ["{", "7", "[]", '{"site":7}']) {
    storage.setItem("nine-lines settings that are not saved", odd);
    expect(keptSettings(storage, DEMO_SITE)).toBeNull();
  }
});
