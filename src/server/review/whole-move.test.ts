import { beforeEach, describe, expect, it } from "vitest";
import { normalAddress } from "../../core/addresses/path-form";
import { RedirectLookup } from "../../core/addresses/redirect-lookup";
import { type KindDesign } from "../../core/design/design";
import { linksOf } from "../../core/links/body-links";
import { DEMO_SITE } from "../../demo/site";
import { readRedirects } from "../../formats/redirects-read";
import { writeRedirects } from "../../formats/redirects-write";
import { itemWriter } from "../../store/bring-items";
import { mendLinks, readNextLinks } from "../../store/links";
import { type Db, openStore } from "../../store/open";
import { chooseChange, chooseFollowing, chooseGroup } from "../../store/review-choices";
import { nextRevision, writeSite } from "../../store/site";
import { runOfReview } from "../../test/run-of-review";
import { LinkSet } from "../links/link-set";
import { RedirectSet } from "../redirects/redirect-set";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { MovesAlong } from "./moves-along";
import { Review } from "./review";

const now = () => "2026-11-27T10:00:00Z";
const ORIGIN = "https://hollerkraut.example";
const PRODUCTS = 300;
const NOTES = 240;

let db: Db;
let redirects: RedirectSet;
let links: LinkSet;
let review: Review;
/** Where each page was at first, by its number. */
let origins: ReadonlyMap<number, string>;

/** A shop of herbs: a base, a parent and a child category above each product, and notes that link to them in every way. */
beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, { ...DEMO_SITE, name: "Hollerkraut", baseUrl: ORIGIN, reserved: [] });
  const revision = nextRevision(db);
  const write = itemWriter(db);
  const put = (kind: string, path: string, columns: Record<string, string>, body: string | null) =>
    write(
      {
        kind,
        key: path,
        path,
        columns: { slug: path.split("/").at(-1)!, ...columns },
        attributes: null,
        body,
        byHand: null,
      },
      revision,
    );
  for (const parent of ["kueche", "garten"]) {
    put("category", `/product-category/${parent}`, { name: parent }, null);
    for (const child of ["tees", "samen", "salz"])
      put(
        "category",
        `/product-category/${parent}/${child}`,
        { name: child, category_path: `${parent} > ${child}` },
        null,
      );
  }
  for (let i = 0; i < PRODUCTS; i++) {
    const [parent, child] = [["kueche", "garten"][i % 2]!, ["tees", "samen", "salz"][i % 3]!];
    const columns = { name: `Minze Nr. ${i}`, category: child, category_path: `${parent} > ${child}` };
    put("product", `/product-category/${parent}/${child}/minze-nr-${i}`, columns, null);
  }
  const product = (i: number) => {
    const [parent, child] = [["kueche", "garten"][i % 2]!, ["tees", "samen", "salz"][i % 3]!];
    return `/product-category/${parent}/${child}/minze-nr-${i}`;
  };
  for (let i = 0; i < NOTES; i++) {
    const body = [
      `<a href="${product(i % 40)}">Minze ${i % 40}</a>`,
      `<a class=x href=${ORIGIN}${product((i * 7) % PRODUCTS)}#pflege>dazu</a>`,
      `<a href="/laden/minze-nr-${i}">früher</a>`,
      `<a href="notiz-${(i + 1) % NOTES}">weiter</a>`,
    ].join(" ");
    put("post", `/notizen/notiz-${i}`, { name: `Notiz ${i}` }, body);
  }
  const workspace = new Workspace(db);
  redirects = new RedirectSet(workspace);
  links = new LinkSet(workspace, redirects);
  review = new Review(workspace, undefined, new MovesAlong(workspace, links, redirects));
  origins = new Map(db.prepare("SELECT id, path FROM items").raw().all() as [number, string][]);
  read();
});

function read(): void {
  while (readNextLinks(db) > 0);
}

const pathsNow = () => new Map(db.prepare("SELECT id, path FROM items").raw().all() as [number, string][]);

/** Every path that a page ever had leads to it: by the view, and by what is written out for a web server and read again. */
async function expectAllLead(): Promise<void> {
  const paths = pathsNow();
  const pages = new Set([...paths.values()].map(normalAddress));
  const written = [...writeRedirects("jsonl", redirects.outgoing(true))].join("");
  const out = await readRedirects([written], () => true);
  expect(out.refused).toEqual([]);
  const server = new RedirectLookup(
    out.redirects.map(({ redirect }) => redirect),
    pages,
  );
  for (const [id, old] of origins) {
    const is = normalAddress(paths.get(id)!);
    expect(server.resolve(normalAddress(old)).to, old).toBe(is);
    expect(redirects.ways().lookup.resolve(normalAddress(old)).to, old).toBe(is);
  }
}

/** How many links of bodies lead to no page, followed by hand. */
function brokenLinks(): number {
  const paths = pathsNow();
  const pages = new Set([...paths.values()].map(normalAddress));
  const { lookup } = redirects.ways();
  const bodies = db.prepare("SELECT item_id, body FROM bodies").raw().all() as [number, string][];
  return bodies
    .flatMap(([id, body]) => linksOf(body, ORIGIN + paths.get(id)!))
    .filter(({ path }) => !pages.has(lookup.resolve(path).to ?? "")).length;
}

describe("a shop that drops its category base and one parent", () => {
  const address = (line: string): KindDesign => ({ base: {}, rules: [], address: line, moves: "all" });
  const designs = { product: address("/{category}/{slug}") };

  it("has every old path lead right at each step: moved but for what is linked most, links fixed, and all taken back", async () => {
    expect(review.summary(designs)).toMatchObject({ moves: 0 });
    expect(review.movesView(designs).figures()).toEqual({ included: 0, left: PRODUCTS, held: 0, gets: 0 });
    chooseGroup(db, "moves", true, () => false);
    const linked = review.list(designs, { group: "moves", order: "linked", from: 0, count: 20 }).changes;
    expect(linked[0]!.cost!.links).toBeGreaterThan(linked.at(-1)!.cost!.links - 1);
    for (const { id } of linked) {
      const scope = { item: id, text: "slug" } as const;
      chooseChange(db, scope, review.markOf(designs, scope), false);
    }
    chooseFollowing(db, true);
    const { moves, links: along } = review.summary(designs);
    expect(moves).toBe(PRODUCTS - 20);
    expect(along!.count).toBeGreaterThan(100);
    const brokenBefore = brokenLinks();
    expect(brokenBefore).toBe(NOTES);

    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    read();
    await expectAllLead();
    expect(brokenLinks()).toBe(brokenBefore);
    expect(links.figures().findings).toMatchObject({ broken: NOTES, redirected: 0 });
    // In every folder a page stays, which a rule for the folder would catch.
    expect(redirects.figures()).toMatchObject({ rules: PRODUCTS - 20, faults: [] });

    const proposals = links.proposals({ finding: "broken", search: "", on: null, to: null }).slice(0, 200);
    expect(proposals).toHaveLength(200);
    mendLinks(db, proposals);
    chooseGroup(db, "moves", false, () => true);
    const fixing = runOfReview(db, review, designs);
    applyRun(db, fixing, { now });
    read();
    await expectAllLead();
    expect(links.figures().findings).toMatchObject({ broken: NOTES - 200, redirected: 0 });
    expect(brokenLinks()).toBe(NOTES - 200);

    for (const back of [fixing, run]) {
      applyRun(db, createTakeBack(db, back, now()), { now });
      read();
      await expectAllLead();
    }
    expect(pathsNow()).toEqual(origins);
    expect(brokenLinks()).toBe(NOTES);
    // The addresses that pages had in between were live: they lead back.
    expect(redirects.figures()).toMatchObject({ holding: PRODUCTS - 20, faults: [] });
  });
});
