import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compactRedirects } from "./compact-redirects";
import { foldRedirects } from "./fold-redirects";
import { type Redirect } from "./redirect";
import { RedirectLookup } from "./redirect-lookup";

const moved = (from: string, to: string, status: Redirect["status"] = 301): Redirect => ({
  from,
  to,
  status,
  prefix: false,
});
const rows = (redirects: readonly Redirect[]) =>
  redirects.map(({ from, to, status, prefix }) => `${from}${prefix ? "*" : ""} ${to} ${status}`);
const compact = (full: readonly Redirect[], pages: readonly string[] | null = null) =>
  compactRedirects(full, pages && new Set(pages));

describe("a compact set", () => {
  it("is one rule for a moved folder, with its own rules for what went elsewhere", () => {
    const names = Array.from({ length: 2000 }, (_, i) => `cleat-${i}`);
    const full = [
      ...names.map((name) => moved(`/deck/${name}`, `/fittings/${name}`)),
      moved("/deck/gaff", "/poles/gaff"),
    ];
    const { redirects, proven } = compact(
      full,
      names.map((name) => `/fittings/${name}`),
    );
    expect(rows(redirects)).toEqual(["/deck/* /fittings/ 301", "/deck/gaff /poles/gaff 301"]);
    expect(proven).toBe(4001);
  });

  it("takes folders within along, and gives one that went elsewhere its own rule", () => {
    const under = (folder: string, to: string) =>
      ["a", "b", "c"].map((name) => moved(`/deck/${folder}/${name}`, `${to}/${name}`));
    const full = [...under("rope", "/fit/rope"), ...under("paint", "/fit/paint"), ...under("lamp", "/light")];
    expect(rows(compact(full).redirects)).toEqual(["/deck/* /fit/ 301", "/deck/lamp/* /light/ 301"]);
  });

  it("is never put over a folder in which a page is", () => {
    const full = ["a", "b", "c"].map((name) => moved(`/deck/${name}`, `/new/${name}`));
    expect(compact(full, ["/deck/stays"]).redirects).toHaveLength(3);
    expect(compact(full, ["/deck/in/stays"]).redirects).toHaveLength(3);
    expect(compact(full, ["/deck", "/decks/x"]).redirects).toHaveLength(1);
  });

  it("tells statuses apart, takes what is gone for good together, and lets prefix redirects of the set stand", () => {
    const full: Redirect[] = [
      ...["a", "b", "c"].map((name) => moved(`/x/${name}`, `/y/${name}`, name === "b" ? 302 : 301)),
      ...["a", "b", "c"].map((name) => moved(`/gone/${name}`, "", 410)),
      { from: "/old/", to: "/new/", status: 301, prefix: true },
      moved("/old/a", "/new/a"),
      moved("/old/b", "/c"),
    ];
    expect(rows(compact(full).redirects)).toEqual([
      "/gone/*  410",
      "/old/* /new/ 301",
      "/old/b /c 301",
      "/x/* /y/ 301",
      "/x/b /y/b 302",
    ]);
  });

  it("keeps exact what has a query, and what leads to a query or a host’s top", () => {
    const full = [
      moved("/a/x?p=1", "/b/x"),
      moved("/a/x?p=2", "/b/y"),
      moved("/a/u", "/b/u?q"),
      moved("/a/v", "/b/v?q"),
      moved("/q/", "https://e.example/"),
      moved("/r/e.example/", "https://e.example/"),
    ];
    const { redirects } = compact(full);
    expect(redirects.filter(({ prefix }) => prefix)).toEqual([]);
    expect(redirects).toHaveLength(6);
  });

  const segment = fc.constantFrom("a", "b");
  const path = fc.array(segment, { minLength: 1, maxLength: 4 }).map((parts) => `/${parts.join("/")}`);
  const set = fc.record({
    given: fc.array(
      fc.record({
        from: path,
        to: path,
        status: fc.constantFrom(301, 301, 301, 302, 410) as fc.Arbitrary<Redirect["status"]>,
      }),
      { maxLength: 14 },
    ),
    prefixes: fc.array(fc.record({ from: path, to: path }), { maxLength: 1 }),
    pages: fc.uniqueArray(path, { maxLength: 3 }),
  });

  it("sends every old path where the full set sends it and no page anywhere, in no more rules", () => {
    fc.assert(
      fc.property(set, ({ given, prefixes, pages }) => {
        const known = new Set(pages);
        const full = foldRedirects(
          [
            ...given.map((own) => ({ ...own, to: own.status === 410 ? "" : own.to, prefix: false })),
            ...prefixes.map((own) => ({ from: `${own.from}/`, to: `${own.to}/`, status: 301, prefix: true }) as const),
          ],
          known,
        ).redirects;
        const { redirects } = compactRedirects(full, known);
        expect(redirects.length).toBeLessThanOrEqual(full.length);
        const [before, after] = [new RedirectLookup(full), new RedirectLookup(redirects)];
        for (const { from, prefix } of full) if (!prefix) expect(after.resolve(from).to).toBe(before.resolve(from).to);
        for (const page of pages) if (before.hop(page) === null) expect(after.hop(page)).toBeNull();
      }),
      { numRuns: 3000 },
    );
  });

  /** The fewest rules by trying every set of prefix redirects, of folders and targets that occur. */
  function fewest(full: readonly Redirect[]): number {
    const folders = [...new Set(full.flatMap(({ from }) => foldersOf(from)))];
    const choices = folders.map((folder) => [
      null,
      ...new Set(
        full.flatMap(({ from, to }) =>
          from.startsWith(folder) && to.endsWith(`/${from.slice(folder.length)}`)
            ? [to.slice(0, to.length - from.length + folder.length)]
            : [],
        ),
      ),
    ]);
    const tryFrom = (at: number, rules: readonly Redirect[]): number => {
      if (at < folders.length)
        return Math.min(
          ...choices[at]!.map((to) =>
            tryFrom(at + 1, to === null ? rules : [...rules, { from: folders[at]!, to, status: 301, prefix: true }]),
          ),
        );
      const lookup = new RedirectLookup(rules);
      if (full.some(({ to }) => lookup.hop(to) !== null)) return Infinity;
      return rules.length + full.filter(({ from, to }) => lookup.hop(from)?.to !== to).length;
    };
    return tryFrom(0, []);
  }

  function foldersOf(path: string): string[] {
    return [...path.matchAll(/\//g)].map(({ index }) => path.slice(0, index + 1));
  }

  it("has the fewest rules that there can be", () => {
    const short = fc.array(segment, { minLength: 1, maxLength: 3 }).map((parts) => `/${parts.join("/")}`);
    const full = fc.uniqueArray(fc.record({ from: short, to: short }), { maxLength: 7, selector: ({ from }) => from });
    fc.assert(
      fc.property(full, (given) => {
        const redirects = given.map(({ from, to }) => moved(from, to));
        expect(compactRedirects(redirects, null).redirects).toHaveLength(fewest(redirects));
      }),
      { numRuns: 400 },
    );
  });
});
