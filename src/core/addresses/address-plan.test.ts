import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { likelyFolders, planAddresses, type WantedAddresses } from "./address-plan";
import { KnownAddresses, WantedSlugs } from "./address-parts";
import { folderOf, lastSegment, withoutSlash } from "./addresses";

/** Pages at these paths, of which those get these slugs. */
function plan(paths: readonly string[], slugs: Record<string, string>, over: Partial<WantedAddresses> = {}) {
  const page = (path: string) => paths.indexOf(path);
  const known = new KnownAddresses(paths);
  const wanted: WantedAddresses = {
    known,
    slugs: new WantedSlugs(known, new Map(Object.entries(slugs).map(([path, slug]) => [page(path), slug]))),
    fixed: new Set(),
    ...over,
  };
  const { moves, held } = planAddresses(wanted);
  return {
    moves: Object.fromEntries(moves.map(({ from, to }) => [from, to])),
    held: Object.fromEntries([...held].map(([at, reason]) => [paths[at]!, reason])),
  };
}

describe("where pages go", () => {
  it("is their folder with the new slug, and what lies below moves along", () => {
    const { moves, held } = plan(["/rope", "/rope/twine", "/rope/twine/waxed/", "/paint"], {
      "/rope": "ropes",
      "/rope/twine": "yarn",
    });
    expect(moves).toEqual({
      "/rope": "/ropes",
      "/rope/twine": "/ropes/yarn",
      "/rope/twine/waxed/": "/ropes/yarn/waxed/",
    });
    expect(held).toEqual({});
  });

  it("keeps a query and a slash at the end, and a page is told from others by its query", () => {
    const paths = ["/rope/?p=1", "/rope?p=2", "/deck", "/deck/cleat?p=1"];
    expect(plan(paths, { "/rope/?p=1": "twine", "/deck": "boards" }).moves).toEqual({
      "/rope/?p=1": "/twine/?p=1",
      "/deck": "/boards",
      "/deck/cleat?p=1": "/boards/cleat?p=1",
    });
    expect(plan(paths, { "/rope/?p=1": "rope" }).moves).toEqual({});
    expect(plan(["/a?p=1", "/b?p=1", "/a"], { "/b?p=1": "a" }).held).toEqual({
      "/b?p=1": { why: "clash", path: "/a?p=1" },
    });
  });

  it("can be away from a page at the same address but for the slash at its end", () => {
    expect(plan(["/a", "/a/", "/a/x"], { "/a/": "b" })).toEqual({
      moves: { "/a/": "/b/", "/a/x": "/b/x" },
      held: {},
    });
  });

  it("counts what becomes of them", () => {
    const paths = ["/c/rope/waxed", "/c/rope/tarred.htm", "/oar", ""];
    const known = new KnownAddresses(paths);
    const slugs = new Map([
      [0, "waxed"],
      [1, "tarred"],
      [2, "oar"],
      [3, "new"],
    ]);
    const made = planAddresses({
      known,
      slugs: new WantedSlugs(known, slugs),
      fixed: new Set(),
      shaped: { end: "always", has: () => true, folder: () => "/c/", last: (_, slug) => slug, behind: () => "" },
    });
    expect(made.moves.map(({ to }) => to)).toEqual(["/c/waxed/", "/c/tarred/", "/c/oar/", "/c/new/"]);
    expect(Object.fromEntries(made.changesOf(made.pages))).toEqual({
      "folder-dropped": 2,
      "folder-added": 1,
      ending: 3,
    });
  });

  it("is another page’s place only where that one moves away: two can change places", () => {
    expect(plan(["/a", "/b"], { "/a": "b", "/b": "a" })).toEqual({ moves: { "/a": "/b", "/b": "/a" }, held: {} });
    expect(plan(["/a", "/b", "/c"], { "/a": "b", "/b": "c" })).toEqual({
      moves: {},
      held: { "/b": { why: "clash", path: "/c" }, "/a": { why: "clash", path: "/b" } },
    });
  });

  it("is nowhere that another page of whatever kind stays, or goes, too", () => {
    expect(plan(["/a", "/b", "/c/"], { "/a": "c" }).held).toEqual({ "/a": { why: "clash", path: "/c" } });
    expect(plan(["/a", "/b"], { "/a": "x", "/b": "x" })).toEqual({
      moves: {},
      held: { "/a": { why: "clash", path: "/x" }, "/b": { why: "clash", path: "/x" } },
    });
  });

  it("leaves all below a page that cannot move where it is", () => {
    const paths = ["/rope", "/rope/twine", "/rope/line/thin", "/ropes"];
    const { moves, held } = plan(paths, { "/rope": "ropes", "/rope/twine": "yarn", "/rope/line/thin": "slim" });
    expect(moves).toEqual({});
    expect(held).toEqual({
      "/rope": { why: "clash", path: "/ropes" },
      "/rope/twine": { why: "below", path: "/rope" },
      "/rope/line/thin": { why: "below", path: "/rope" },
    });
    expect(plan(paths, { "/rope/twine": "yarn" }, { fixed: new Set([0]) }).held).toEqual({
      "/rope/twine": { why: "below", path: "/rope" },
    });
  });

  it("holds a page back that would bring another one along onto a third", () => {
    const { moves, held } = plan(["/a", "/a/x", "/b/x"], { "/a": "b" });
    expect(moves).toEqual({});
    expect(held).toEqual({ "/a": { why: "clash", path: "/b/x" } });
  });

  it("is a first address for pages without one, in the folder that is told, which may move itself", () => {
    const paths = ["/rope", ""];
    const folders = new Map([[1, "/rope/"]]);
    const first = (slugs: [number, string][]) => {
      const known = new KnownAddresses(paths, folders);
      return planAddresses({ known, fixed: new Set(), slugs: new WantedSlugs(known, new Map(slugs)) });
    };
    expect(first([[1, "twine"]]).moves).toEqual([{ page: 1, from: "", to: "/rope/twine" }]);
    expect(
      first([
        [0, "ropes"],
        [1, "twine"],
      ]).moves,
    ).toEqual([
      { page: 0, from: "/rope", to: "/ropes" },
      { page: 1, from: "", to: "/ropes/twine" },
    ]);
    // The folder's page may be at the very address.
    const known = new KnownAddresses(["/rope", "/rope/twine", ""], new Map([[2, "/rope/"]]));
    const slugs = new WantedSlugs(known, new Map([[2, "twine"]]));
    expect(planAddresses({ known, fixed: new Set(), slugs }).held.get(2)).toEqual({
      why: "clash",
      path: "/rope/twine",
    });
  });
});

describe("whatever slugs pages are to have", () => {
  const segment = fc.constantFrom("a", "b", "c", "d");
  const path = fc.array(segment, { minLength: 1, maxLength: 3 }).map((parts) => `/${parts.join("/")}`);
  const site = fc.uniqueArray(path, { minLength: 1, maxLength: 12 }).chain((paths) =>
    fc.record({
      paths: fc.constant(paths),
      slugs: fc.dictionary(fc.constantFrom(...paths), segment, { maxKeys: paths.length }),
    }),
  );

  it("no two pages have one address, no page loses the one above it, and nothing moves that nobody moved", () => {
    fc.assert(
      fc.property(site, ({ paths, slugs }) => {
        const { moves, held } = plan(paths, slugs);
        const after = paths.map((own) => moves[own] ?? own);
        expect(new Set(after).size).toBe(paths.length);
        paths.forEach((own, i) => {
          // The nearest page above it before is above it afterwards.
          const above = paths.findIndex((other) => `${other}/` === folderOf(own));
          if (above >= 0) expect(folderOf(after[i]!)).toBe(`${withoutSlash(after[above]!)}/`);
          if (held[own]) expect(after[i]!.split("/").at(-1)).toBe(own.split("/").at(-1));
          const isMoved = paths.some(
            (other) => other in slugs && !held[other] && (own === other || own.startsWith(`${other}/`)),
          );
          if (!isMoved) expect(after[i]).toBe(own);
        });
      }),
      { numRuns: 3000 },
    );
  });
});

describe("the folder of a page without an address", () => {
  it("is where most of its like are, else where most pages are, else the top", () => {
    const paths = ["/rope/a", "/rope/b", "/paint/c", "/paint/d", "/paint/e", "", ""];
    const groups = ["rope", "rope", "paint", "paint", "rope", "rope", "lamps"];
    expect([...likelyFolders(paths, groups, [5, 6])]).toEqual([
      [5, "/rope/"],
      [6, "/paint/"],
    ]);
    expect([...likelyFolders(["", "/"], ["x", "x"], [0])]).toEqual([[0, "/"]]);
  });
});

describe("addresses that a line puts together", () => {
  /** Pages at these paths; those of which the slug is told have their address put together of their folder’s page and it. */
  function shapedPlan(
    paths: readonly string[],
    slugs: Record<string, string>,
    shaped: Record<string, (slug: string, slugOf: (path: string) => string) => string>,
    over: Partial<WantedAddresses> = {},
  ) {
    const page = (path: string) => paths.indexOf(path);
    return plan(paths, slugs, {
      ...over,
      shaped: {
        end: "as-it-is",
        has: (own) => paths[own]! in shaped,
        folder: (own, slugOf) => folderOf(shaped[paths[own]!]!("x", (path) => slugOf(page(path)))),
        behind: () => null,
        last: (own, slug, slugOf) => lastSegment(shaped[paths[own]!]!(slug, (path) => slugOf(page(path)))),
      },
    });
  }

  it("are left as they are where the page stays, and take what lies below along", () => {
    const flat = (slug: string) => `/shop/${slug}`;
    const paths = ["/a/b/cleat", "/a/b/cleat/spare/", "/a/b/oar"];
    expect(shapedPlan(paths, { "/a/b/cleat": "cleat" }, { "/a/b/cleat": flat })).toEqual({
      moves: { "/a/b/cleat": "/shop/cleat", "/a/b/cleat/spare/": "/shop/cleat/spare/" },
      held: {},
    });
  });

  it("keep a slash at the end and a query", () => {
    const flat = (slug: string) => `/${slug}`;
    const file = (slug: string) => `/${slug}.html`;
    expect(shapedPlan(["/a/x/"], { "/a/x/": "x" }, { "/a/x/": file }).moves).toEqual({ "/a/x/": "/x.html" });
    expect(
      shapedPlan(["/a/x/", "/a/y?p=1"], { "/a/x/": "x", "/a/y?p=1": "y" }, { "/a/x/": flat, "/a/y?p=1": flat }).moves,
    ).toEqual({
      "/a/x/": "/x/",
      "/a/y?p=1": "/y?p=1",
    });
  });

  it("take the slug that a category has by then: the new one where it moves, the old one where it cannot", () => {
    const inRope = (slug: string, slugOf: (path: string) => string) => `/${slugOf("/rope")}/${slug}`;
    const slugs = { "/rope": "ropes", "/rope/sub/twine": "twine" };
    const shaped = { "/rope/sub/twine": inRope };
    expect(shapedPlan(["/rope", "/rope/sub/twine"], slugs, shaped).moves).toEqual({
      "/rope": "/ropes",
      "/rope/sub/twine": "/ropes/twine",
    });
    expect(shapedPlan(["/rope", "/rope/sub/twine", "/ropes"], slugs, shaped)).toEqual({
      moves: { "/rope/sub/twine": "/rope/twine" },
      held: { "/rope": { why: "clash", path: "/ropes" } },
    });
  });

  it("are held back where two would be one, whatever kind they are of", () => {
    const flat = (slug: string) => `/${slug}`;
    expect(
      shapedPlan(["/a/x", "/b/x", "/y"], { "/a/x": "x", "/b/x": "x" }, { "/a/x": flat, "/b/x": flat }).held,
    ).toEqual({
      "/a/x": { why: "clash", path: "/x" },
      "/b/x": { why: "clash", path: "/x" },
    });
    expect(shapedPlan(["/a/y", "/y"], { "/a/y": "y" }, { "/a/y": flat }).held).toEqual({
      "/a/y": { why: "clash", path: "/y" },
    });
  });
});
