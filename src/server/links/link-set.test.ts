import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { LINK_FINDINGS, type LinkFinding } from "../../core/links/finding-names";
import { isFilePath } from "../../core/links/link-text";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { mendLinks, readNextLinks } from "../../store/links";
import { type Db, openStore } from "../../store/open";
import { addRedirects } from "../../store/redirects";
import { nextRevision, writeSite } from "../../store/site";
import { RedirectSet } from "../redirects/redirect-set";
import { Workspace } from "../workspace/workspace";
import { type LinkFilter, LinkSet } from "./link-set";
import { draws } from "../../test/draws";

let db: Db;
let links: LinkSet;

function open(): void {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const workspace = new Workspace(db);
  links = new LinkSet(workspace, new RedirectSet(workspace));
}
beforeEach(open);

interface Page {
  readonly path: string | null;
  readonly kind?: string;
  readonly body?: string;
  readonly robots?: string;
  readonly name?: string;
}

function put(...pages: Page[]): void {
  const write = itemWriter(db);
  const revision = nextRevision(db);
  for (const { path, kind = "product", body = null, robots = "", name = path?.split("/").at(-1) ?? "" } of pages)
    write({ kind, key: path ?? name, path, columns: { name, robots }, attributes: null, body, byHand: null }, revision);
  while (readNextLinks(db) > 0);
}

const redirect = (from: string, to: string) => ({ from, to, status: 301 as const, prefix: false });
const ALL: LinkFilter = { finding: "all", search: "", on: null, to: null };
const listed = (filter: Partial<LinkFilter> = {}) => links.list({ ...ALL, ...filter }, { from: 0, count: 500 }).links;
const found = () => Object.fromEntries(listed().map(({ href, findings }) => [href, findings]));
const a = (href: string, text = href) => `<a href="${href}">${text}</a>`;

describe("what is found of links", () => {
  beforeEach(() => {
    put(
      { path: "/notes", body: [a("/rope"), a("/old"), a("/gone"), a("/nowhere"), a("/secret"), a("/x.pdf")].join("") },
      { path: "/rope", body: a("/notes", "click here") + a("/notes#top", "Notes") + a("/secret/", "Notes") },
      { path: "/secret", robots: "noindex" },
      { path: "/waxed-twine", name: "Waxed twine", body: a("/shop/waxed-twines", "our waxed twine") },
    );
    addRedirects(db, [redirect("/old", "/rope"), redirect("/gone", "")], "hand", "2026-11-27");
  });

  it("is broken, through a redirect, not indexed, says nothing, the same text for different pages", () => {
    expect(found()).toEqual({
      "/rope": [],
      "/old": ["redirected"],
      "/gone": ["broken"],
      "/nowhere": ["broken"],
      "/secret": ["not-indexed"],
      "/x.pdf": [],
      "/notes": ["says-nothing"],
      "/notes#top": ["same-text"],
      "/secret/": ["redirected", "not-indexed", "same-text"],
      "/shop/waxed-twines": ["broken"],
    });
    expect(links.figures()).toMatchObject({ links: 10, orphans: 1, findings: { broken: 3, redirected: 2 }, mended: 0 });
    expect(links.orphans({ kind: null, from: 0, count: 9 }).pages).toMatchObject([{ path: "/waxed-twine" }]);
  });

  it("proposes where a redirect leads, and the page that a broken link meant", () => {
    const proposals = Object.fromEntries(listed().map(({ href, proposal }) => [href, proposal]));
    expect(proposals).toMatchObject({ "/old": "/rope", "/nowhere": null, "/rope": null });
    put({ path: "/notes/care", body: a("https://www.fennickdray.example/shop/waxed-twines?x=1#care", "twine") });
    expect(listed({ search: "care" })[0]).toMatchObject({
      proposal: "https://www.fennickdray.example/waxed-twine#care",
    });
    expect(links.proposals({ ...ALL, finding: "redirected" })).toEqual([
      { item: 1, href: "/old", after: "/rope" },
      { item: 2, href: "/secret/", after: "/secret" },
    ]);
  });

  it("is another thing as soon as pages, redirects, settings or mends are", () => {
    put({ path: "/nowhere" });
    expect(found()["/nowhere"]).toEqual([]);
    addRedirects(db, [redirect("/old", "/secret")], "hand", "2026-11-28");
    expect(found()["/old"]).toEqual(["redirected", "not-indexed"]);
    writeSite(db, { ...DEMO_SITE, checks: { ...DEMO_SITE.checks, emptyLinkTexts: ["/rope"] } });
    expect(found()).toMatchObject({ "/rope": ["says-nothing"], "/notes": [] });
    mendLinks(db, [{ item: 1, href: "/old", after: "/rope" }]);
    expect(listed({ finding: "mended" })).toMatchObject([{ href: "/old", mend: "/rope" }]);
    put({ path: "/secret", robots: "index" });
    expect(found()["/secret"]).toEqual([]);
  });

  it("tells links on a page and to it apart, by words as well", () => {
    const [notes, rope] = ["/notes", "/rope"].map((path) => listed().find(({ page }) => page.path === path)!.page.id);
    expect(listed({ on: notes! })).toHaveLength(6);
    expect(listed({ to: rope! }).map(({ href }) => href)).toEqual(["/rope", "/old"]);
    expect(listed({ to: notes!, search: "CLICK here" }).map(({ href }) => href)).toEqual(["/notes"]);
  });
});

describe("any links of any site", () => {
  it("are judged one by one as a plain reading judges them", () => {
    const path = fc.constantFrom("/a", "/b", "/c/d", "/c/e", "/f.pdf");
    const page = fc.record({
      path,
      robots: fc.constantFrom("", "noindex"),
      hrefs: fc.array(fc.record({ href: path, text: fc.constantFrom("one", "Two", "here", "") }), { maxLength: 4 }),
    });
    const moved = fc.uniqueArray(fc.record({ from: path, to: path }), { maxLength: 3, selector: ({ from }) => from });
    fc.assert(
      fc.property(fc.uniqueArray(page, { maxLength: 4, selector: (own) => own.path }), moved, (pages, redirects) => {
        db.close();
        open();
        put(...pages.map((own) => ({ ...own, body: own.hrefs.map(({ href, text }) => a(href, text)).join(" ") })));
        addRedirects(
          db,
          redirects.map(({ from, to }) => redirect(from, to)),
          "hand",
          "2026-11-27",
        );
        const isPage = (at: string) => pages.some((own) => own.path === at);
        const end = (at: string): string | null => {
          for (let hops = 0; hops < 9; hops++) {
            if (isPage(at)) return at;
            const next = redirects.find(({ from }) => from === at);
            if (!next) return null;
            at = next.to;
          }
          return null;
        };
        const every = pages.flatMap((own) => own.hrefs.map((link) => ({ ...link, on: own.path, to: end(link.href) })));
        const key = (text: string) => text.toLowerCase();
        const saysNothing = (text: string) => text === "" || text === "here";
        const expected = every.map(({ href, text, on, to }) => {
          const same = every.filter((own) => key(own.text) === key(text) && own.to !== null && own.to !== to);
          const bits: Record<LinkFinding, boolean> = {
            broken: to === null && !isFilePath(href),
            redirected: to !== null && to !== href,
            "not-indexed": pages.some((own) => own.path === to && own.robots === "noindex"),
            "says-nothing": saysNothing(text),
            "same-text": to !== null && !saysNothing(text) && same.length > 0,
          };
          return { on, href, findings: LINK_FINDINGS.filter((finding) => bits[finding]), to };
        });
        expect(
          listed().map(({ page: on, href, findings, target }) => ({
            ...{ on: on.path, href, findings },
            to: target?.path ?? null,
          })),
        ).toEqual(expected);
        const linked = new Set(every.flatMap(({ on, to }) => (to !== null && to !== on ? [to] : [])));
        const orphans = links.orphans({ kind: null, from: 0, count: 99 }).pages.map((own) => own.path);
        expect(orphans).toEqual(pages.flatMap((own) => (linked.has(own.path) ? [] : [own.path])));
      }),
      { numRuns: draws(300) },
    );
  });
});
