import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { foldRedirects } from "./fold-redirects";
import { normalAddress, normalPath, readablePath } from "./path-form";
import { joinedStatus, readRedirect, type Redirect, REDIRECT_STATUSES } from "./redirect";
import { hopCount, RedirectLookup } from "./redirect-lookup";
import { draws } from "../../test/draws";

type Written = [from: string, to: string, status?: number];
const isOwn = (host: string) => host === "x.example";
const read = ([from, to, status]: Written): Redirect =>
  readRedirect({ from, to, status: status === undefined ? "" : String(status) }, isOwn);
const fold = (pairs: readonly Written[], pages: readonly string[] | null) =>
  foldRedirects(pairs.map(read), pages && new Set(pages));
const rows = (redirects: readonly Redirect[]) => redirects.map(({ from, to, status }) => [from, to, status]);

describe("the contract", () => {
  it.each(readCases<{ pairs: Written[]; out: Written[]; report: string[]; pages: string[] }>("redirects.jsonl"))(
    "folds $pairs",
    ({ pairs, pages, out, report }) => {
      const folded = fold(pairs, pages);
      expect(rows(folded.redirects)).toEqual(out);
      expect(folded.reports.map(({ what }) => what)).toEqual(report);
    },
  );

  it.each(
    readCases<{
      rules: [string, string, number, boolean?][];
      pages: string[];
      ask: [string, string, number, number, string | null][];
    }>("resolve.jsonl").flatMap(({ ask, ...set }) => ask.map((one) => ({ ...set, one }))),
  )("resolves $one", ({ rules, pages, one: [path, to, status, hops, by] }) => {
    const lookup = new RedirectLookup(
      rules.map(([from, target, own, prefix]) => ({ from, to: target, status: own as 301, prefix: prefix ?? false })),
      new Set(pages),
    );
    const answer = lookup.resolve(normalAddress(path));
    expect([answer.to ?? "", answer.status, hopCount(answer), answer.by]).toEqual([to, status, hops, by]);
  });
});

describe("a path in normal form", () => {
  it.each([
    ["/rope", "/rope"],
    ["/a b", "/a%20b"],
    ["/%7Eann", "/~ann"],
    ["/a%2fb", "/a%2Fb"],
    ["/100%", "/100%25"],
    ["/café", "/caf%C3%A9"],
    ["/a/./b/../c/", "/a/c/"],
    ["/..", "/"],
    ["/a/%2e%2e/b", "/b"],
    ['/"quoted";{$x}', "/%22quoted%22;%7B$x%7D"],
    ["/a\nb", "/a%0Ab"],
    ["/\ud800x", "/%EF%BF%BDx"],
    ["/a//b", "/a//b"],
    ["/.well-known/x.txt", "/.well-known/x.txt"],
  ])("%j is %j", (path, expected) => expect(normalPath(path)).toBe(expected));

  const part = fc.constantFrom(
    "/",
    "a",
    "A",
    "é",
    "%2F",
    "%2f",
    "%41",
    "%",
    "..",
    ".",
    " ",
    '"',
    "$",
    "\n",
    "日",
    "%25",
  );
  const path = fc.array(part, { maxLength: 8 }).map((parts) => `/${parts.join("")}`);

  it("is its own normal form, and has nothing in it that could end a line or a word", () => {
    fc.assert(
      fc.property(path, (own) => {
        const normal = normalPath(own);
        expect(normalPath(normal)).toBe(normal);
        expect(normal).toMatch(/^\/[\x21-\x7e]*$/);
        expect(normal).not.toMatch(/["<>\\^`{|}]/);
        expect(normalPath(readablePath(normal))).toBe(normal);
      }),
      { numRuns: draws(2000) },
    );
  });
});

describe("what somebody wrote", () => {
  it.each([
    [["rope", "/b"], "“rope” is no path"],
    [["/a", ""], "no target"],
    [["/a", "/b", "200"], "“200” is no status"],
    [["/old/*", "/new"], "would lead to one page"],
    [["/old/x", "/new/*"], "has a star"],
    [["/a", "javascript:alert(1)"], "no address that a redirect can lead to"],
    [["/a", "b"], "no path and no address"],
  ] as const)("%j is refused in words", ([from, to, status = ""], message) =>
    expect(() => readRedirect({ from, to, status }, isOwn)).toThrow(message),
  );

  it("is read with or without a host, and what leads to the site’s own host is a path", () => {
    expect(read(["https://X.example/a?b=1#c", "//x.example/d#e"])).toMatchObject({ from: "/a?b=1", to: "/d#e" });
    expect(read(["/a", "https://elsewhere.example"])).toMatchObject({ to: "https://elsewhere.example/" });
  });
});

it("joins statuses: whatever the order of joining, the same comes of three hops", () => {
  for (const a of REDIRECT_STATUSES)
    for (const b of REDIRECT_STATUSES)
      for (const c of REDIRECT_STATUSES)
        if (a !== 410 && b !== 410)
          expect(joinedStatus(joinedStatus(a, b), c)).toBe(joinedStatus(a, joinedStatus(b, c)));
});

describe("folding", () => {
  it("tells a ring once, with what leads into it", () => {
    expect(
      fold(
        [
          ["/c", "/a"],
          ["/a", "/b"],
          ["/b", "/a"],
          ["/d", "/b"],
        ],
        ["/x"],
      ),
    ).toEqual({ redirects: [], reports: [{ what: "loop", ring: ["/a", "/b"], leadingIn: ["/c", "/d"] }] });
  });

  it("carries a query and a fragment on unless the next has its own", () => {
    const folded = fold(
      [
        ["/a", "/b?x=1#top"],
        ["/b", "/c"],
        ["/e", "/f?x=1"],
        ["/f", "/g?y=2"],
      ],
      null,
    );
    expect(rows(folded.redirects)).toEqual([
      ["/a", "/c?x=1#top", 301],
      ["/b", "/c", 301],
      ["/e", "/g?y=2", 301],
      ["/f", "/g?y=2", 301],
    ]);
  });

  it("gives what lies below a prefix’s target its own redirects where it goes elsewhere than the rest", () => {
    const folded = fold(
      [
        ["/old/*", "/mid/*"],
        ["/mid/*", "/new/*"],
        ["/mid/x", "/elsewhere"],
        ["/mid/deep/*", "/z/*", 302],
      ],
      ["/mid/stays", "/elsewhere"],
    );
    expect(folded.reports).toEqual([]);
    expect(rows(folded.redirects)).toEqual([
      ["/mid/", "/new/", 301],
      ["/mid/deep/", "/z/", 302],
      ["/mid/x", "/elsewhere", 301],
      ["/old/", "/new/", 301],
      ["/old/deep/", "/z/", 302],
      ["/old/stays", "/mid/stays", 301],
      ["/old/x", "/elsewhere", 301],
    ]);
  });

  it("makes of a prefix that leads into itself redirects to the pages that are there", () => {
    const folded = fold([["/shop/*", "/shop/all/*"]], ["/shop/all/cleat"]);
    expect(rows(folded.redirects)).toEqual([["/shop/cleat", "/shop/all/cleat", 301]]);
    expect(folded.reports).toEqual([{ what: "loop", ring: ["/shop/*"], leadingIn: [] }]);
  });

  it("takes a chain of 200,000 hops", () => {
    const given = Array.from({ length: 200_000 }, (_, i): Redirect => ({
      from: `/p${i}`,
      to: `/p${i + 1}`,
      status: 301,
      prefix: false,
    }));
    const { redirects } = foldRedirects(given, new Set(["/p200000"]));
    expect(redirects).toHaveLength(200_000);
    expect(redirects.every(({ to }) => to === "/p200000")).toBe(true);
  });

  // A small world, in which all that can happen does.
  const segment = fc.constantFrom("a", "b", "c");
  const path = fc.array(segment, { minLength: 1, maxLength: 3 }).map((parts) => `/${parts.join("/")}`);
  const folder = fc.array(segment, { minLength: 1, maxLength: 2 }).map((parts) => `/${parts.join("/")}/`);
  const status = fc.constantFrom(301, 302, 307, 308, 410) as fc.Arbitrary<Redirect["status"]>;
  const exact = fc
    .record({ from: path, to: fc.oneof({ weight: 6, arbitrary: path }, fc.constant("https://e.example/")), status })
    .map((own): Redirect => ({ ...own, to: own.status === 410 ? "" : own.to, prefix: false }));
  const prefix = fc
    .record({ from: folder, to: folder, status: fc.constantFrom(301, 302) as fc.Arbitrary<301 | 302> })
    .map((own): Redirect => ({ ...own, prefix: true }));
  const given = fc.array(fc.oneof({ weight: 3, arbitrary: exact }, prefix), { maxLength: 10 });
  const pages = fc.uniqueArray(path, { maxLength: 8 });
  const world = (() => {
    const of = (depth: number): string[] =>
      depth === 0 ? [""] : of(depth - 1).flatMap((head) => ["a", "b", "c"].map((own) => `${head}/${own}`));
    return [...[1, 2, 3].flatMap(of).flatMap((own) => [own, `${own}/`]), ...of(4)];
  })();

  it("leads every path in one hop to where it led before, and no page anywhere", () => {
    fc.assert(
      fc.property(given, pages, (redirects, live) => {
        const known = new Set(live);
        // The model follows what was given, a page going before what redirects.
        const before = new RedirectLookup(redirects, known);
        const folded = foldRedirects(redirects, known);
        const after = new RedirectLookup(folded.redirects, known);
        for (const { from, prefix: isPrefix } of folded.redirects) if (!isPrefix) expect(known.has(from)).toBe(false);
        for (const own of world) {
          const was = before.resolve(own);
          const is = after.resolve(own);
          expect(is.status).not.toBe(508);
          // What comes over one prefix redirect twice may do so with any number of folders: no set of rules holds them all.
          const over = was.hops.map(({ redirect }) => redirect);
          const isTwice = new Set(over).size < over.length;
          // What went round in a ring is free for what else catches it.
          if (isTwice || was.status === 508) continue;
          // An expectation for each would take most of the time.
          if (is.hops.length > 1 || is.to !== was.to || is.status !== was.status)
            expect({ own, to: is.to, status: is.status, hops: is.hops }).toEqual({ own, ...was });
        }
        for (const { from, to, prefix: isPrefix } of redirects) {
          const was = before.resolve(from);
          if (isPrefix || to === "" || known.has(from) || was.status === 508) continue;
          // The later of two of one path holds.
          expect([after.resolve(from).to, after.resolve(from).status], from).toEqual([was.to, was.status]);
        }
      }),
      { numRuns: draws(2000) },
    );
  });

  it("finds nothing to do in what it made of exact ones", () => {
    fc.assert(
      fc.property(fc.array(exact, { maxLength: 12 }), pages, (redirects, live) => {
        const { redirects: folded } = foldRedirects(redirects, new Set(live));
        expect(foldRedirects(folded, new Set(live)).redirects).toEqual(folded);
      }),
      { numRuns: draws(1000) },
    );
  });

  it("accounts for every redirect: it is in the set, or a report names it", () => {
    fc.assert(
      fc.property(given, pages, (redirects, live) => {
        const folded = foldRedirects(redirects, new Set(live));
        const kept = new Set(folded.redirects.map(({ from, prefix: isPrefix }) => (isPrefix ? `${from}*` : from)));
        const named = new Set(
          folded.reports.flatMap((report) =>
            report.what === "loop" ? [...report.ring, ...report.leadingIn] : [report.from],
          ),
        );
        for (const { from, prefix: isPrefix } of redirects) {
          const key = isPrefix ? `${from}*` : from;
          expect(kept.has(key) || named.has(key), key).toBe(true);
        }
      }),
      { numRuns: draws(2000) },
    );
  });
});
