import { describe, expect, it } from "vitest";
import { type KindDesign } from "../../core/design/design";
import { DEMO_SITE } from "../../demo/site";
import { loadDemo } from "../../demo/load";
import { itemWriter } from "../../store/bring-items";
import { openStore } from "../../store/open";
import { addRedirects, iterateRedirects, setRetired } from "../../store/redirects";
import { writeSite } from "../../store/site";
import { Review } from "../review/review";
import { Workspace } from "../workspace/workspace";
import { BenchDesk } from "./bench-desk";
import { BenchAddresses } from "./bench-addresses";

const shaped = (address: string, more: Partial<KindDesign> = {}): KindDesign => ({
  base: {},
  rules: [],
  address,
  moves: "all",
  ...more,
});

const proveAddresses = (workspace: Workspace, kind: string, design: KindDesign) =>
  new BenchAddresses(workspace).prove(kind, design);

function site(...paths: (string | null)[]): Workspace {
  const db = openStore(":memory:");
  writeSite(db, { ...DEMO_SITE, reserved: ["cart"] });
  const put = itemWriter(db);
  paths.forEach((path, i) =>
    put(
      {
        kind: "product",
        key: `k${i}`,
        path,
        columns: { name: `Page ${i}`, slug: path?.split("/").at(-1) ?? "" },
        attributes: null,
        body: null,
        byHand: null,
      },
      1,
    ),
  );
  return new Workspace(db);
}

describe("what an address line does to a set", () => {
  it("is told in figures, with what changes and examples", () => {
    const proved = proveAddresses(
      site("/c/oar", "/c/oar/spare", "/c/cart", null, "/x/oar"),
      "product",
      shaped("/shop/{slug}", { base: { slug: "{name}" } }),
    );
    expect(proved).toMatchObject({ total: 5, moves: 4, gets: 1, along: 0, held: { clash: 0, below: 0, reserved: 0 } });
    expect(proved.changes).toContainEqual({ change: "slug", count: 4 });
    expect(proved.examples).toContainEqual(expect.objectContaining({ from: "", to: "/shop/page-3" }));
  });

  it("counts the pages that go where a redirect leads elsewhere now, and tells it anew when redirects change", () => {
    const workspace = site("/c/oar", "/c/rope", "/c/café", "/c/knot");
    const desk = new BenchAddresses(workspace);
    const over = () => desk.prove("product", shaped("/shop/{slug}")).overRedirects;
    expect(over()).toBe(0);
    const lead = (from: string, to: string) =>
      addRedirects(
        workspace.db,
        [{ from, to, status: to === "" ? 410 : 301, prefix: false }],
        "hand",
        "2026-11-27T10:00:00Z",
      );
    lead("/shop/oar", "/elsewhere");
    lead("/shop/caf%C3%A9", "");
    // Where the page itself is now: it only comes back.
    lead("/shop/rope", "/c/rope");
    lead("/shop/unknown", "/elsewhere");
    expect(over()).toBe(2);
    const ids = [...iterateRedirects(workspace.db)].map(({ id }) => id);
    setRetired(workspace.db, ids.slice(0, 1), "2026-11-27T11:00:00Z");
    expect(over()).toBe(1);
  });

  it("counts what cannot move: two at one address, and what the site itself answers at", () => {
    const proved = proveAddresses(site("/c/oar", "/x/oar", "/c/cart"), "product", shaped("/shop/{slug}"));
    expect(proved).toMatchObject({ moves: 0, held: { clash: 2, reserved: 1 } });
    expect(proved.clashes.map(({ from, to }) => [from, to])).toEqual([
      ["/c/oar", "/shop/oar"],
      ["/x/oar", "/shop/oar"],
    ]);
  });

  it("ends addresses in a slash as the settings say, but for what ends like a file", () => {
    const workspace = site("/c/oar", "/c/cleat/", "/c/list?p=1", null);
    const ends = (slashEnd: "as-it-is" | "always" | "never", line: string) => {
      writeSite(workspace.db, { ...DEMO_SITE, slashEnd });
      const design = shaped(line, { base: { slug: "{name}" } });
      return proveAddresses(workspace, "product", design).examples.map(({ to }) => to);
    };
    expect(ends("as-it-is", "/{slug}")).toEqual(["/page-0", "/page-1/", "/page-2?p=1", "/page-3"]);
    expect(ends("as-it-is", "/{slug}/")).toEqual(["/page-0/", "/page-1/", "/page-2/?p=1", "/page-3/"]);
    expect(ends("always", "/{slug}")).toEqual(["/page-0/", "/page-1/", "/page-2/?p=1", "/page-3/"]);
    expect(ends("never", "/{slug}/")).toEqual(["/page-0", "/page-1", "/page-2?p=1", "/page-3"]);
    expect(ends("always", "/{slug}.html")).toEqual([
      "/page-0.html",
      "/page-1.html",
      "/page-2.html?p=1",
      "/page-3.html",
    ]);
    // The slash alone is a move.
    const plain = site("/c/oar", "/c/cleat");
    expect(proveAddresses(plain, "product", shaped("/c/{slug}")).moves).toBe(0);
    writeSite(plain.db, { ...DEMO_SITE, slashEnd: "always" });
    expect(proveAddresses(plain, "product", shaped("/c/{slug}"))).toMatchObject({
      moves: 2,
      changes: [{ change: "ending", count: 2 }],
    });
  });

  it("moves nothing where pages are to stay, and tells why a wrong line does nothing", () => {
    expect(proveAddresses(site("/c/oar"), "product", shaped("/shop/{slug}", { moves: "new" })).moves).toBe(0);
    const wrong = proveAddresses(site("/c/oar"), "product", shaped("/shop"));
    expect(wrong).toMatchObject({ moves: 0, fault: expect.stringContaining("{slug}") });
  });

  it("moves pages whose slug has a fault that is chosen, under the settings of the moment", () => {
    const workspace = site("/c/Oar", "/c/boat_hook", "/c/cleat", "/c/a-long-name-of-many-words");
    const moved = (more: Partial<KindDesign>) => {
      const design = shaped("/shop/{slug}", { moves: "found", ...more });
      const proved = proveAddresses(workspace, "product", design);
      const { groups } = new Review(workspace).summary({ product: design });
      expect(groups.find(({ group }) => group === "moves")?.count ?? 0).toBe(proved.moves);
      return proved.examples.map(({ from }) => from);
    };
    expect(moved({})).toEqual(["/c/Oar", "/c/boat_hook", "/c/a-long-name-of-many-words"]);
    expect(moved({ movesFor: ["underscores"] })).toEqual(["/c/boat_hook"]);
    expect(moved({ movesFor: ["too-many-characters"] })).toEqual([]);
    writeSite(workspace.db, { ...DEMO_SITE, slug: { ...DEMO_SITE.slug, max: 20 } });
    expect(moved({ movesFor: ["too-many-characters"] })).toEqual(["/c/a-long-name-of-many-words"]);
  });

  it("is what the review says of the same lines", () => {
    const db = openStore(":memory:");
    loadDemo(db, { products: 600 });
    const workspace = new Workspace(db);
    for (const address of ["/shop/{category.path}/{slug}", "/{slug}.html", "/{category}/{slug}"]) {
      const design = shaped(address, { base: { slug: "{name}" } });
      const proved = proveAddresses(workspace, "product", design);
      const { groups } = new Review(workspace).summary({ product: design });
      const of = (group: string) => groups.find((own) => own.group === group)?.count ?? 0;
      expect(proved.moves, address).toBeGreaterThan(100);
      expect(of("moves") + of("worse"), address).toBe(proved.moves);
      expect(of("clash"), address).toBe(proved.held.clash);
      // What the bar counts besides the slugs: the same pages, and those that two addresses hold back.
      const { moves, texts } = new BenchDesk(workspace).prove("product", design);
      expect(moves + texts.slug.draft.changed, address).toBe(proved.moves + proved.held.clash);
    }
  });
});
