import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { linksOf } from "../../core/links/body-links";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { mendedLinks, mendLinks, readNextLinks } from "../../store/links";
import { type Db, openStore } from "../../store/open";
import { changesAfter } from "../../store/runs";
import { nextRevision, writeSite } from "../../store/site";
import { runOfReview } from "../../test/run-of-review";
import { outgoingLines } from "../exchange/take-out";
import { Review } from "../review/review";
import { Workspace } from "../workspace/workspace";
import { applyRun } from "./apply-run";
import { createTakeBack } from "./take-back";

const now = () => "2026-11-27T10:00:00Z";
let db: Db;
let review: Review;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, { ...DEMO_SITE, extras: { ...DEMO_SITE.extras, alt: true } });
  review = new Review(new Workspace(db));
});

function put(key: string, body: string): void {
  itemWriter(db)(
    { kind: "product", key, path: `/${key}`, columns: { name: key, slug: key }, attributes: null, body, byHand: null },
    nextRevision(db),
  );
  while (readNextLinks(db) > 0);
}

const bodyOf = (key: string) =>
  db.prepare("SELECT body FROM bodies JOIN items ON id = item_id WHERE key = ?").pluck().get(key) as string;
const apply = () => {
  const run = runOfReview(db, review, {});
  applyRun(db, run, { now });
  return run;
};
const outcome = (run: number) => changesAfter(db, run, 0, 100).map(({ status, reason }) => reason ?? status);

describe("links that are mended", () => {
  const BODY = `<p>Ünï <a class='x' href='/old' title="a > b">Old</a> and <a href=/old>again</a>, <a href="/kept">kept</a></p>`;

  it("go out as changes of the body, in a group of their own, and come back byte by byte", () => {
    put("a", BODY);
    mendLinks(db, [{ item: 1, href: "/old", after: "/new page?x=1&y=2" }]);
    const { groups, items } = review.summary({});
    expect(groups.map(({ group, byText }) => [group, byText.body])).toEqual([["links", 2]]);
    expect(items).toBe(1);
    expect(review.list({}, { group: "links", from: 0, count: 9 }).changes).toMatchObject([
      { text: "body", part: 1, label: "Old", before: "/old", after: "/new page?x=1&y=2", included: true },
      { part: 2, label: "again" },
    ]);
    const run = apply();
    expect(bodyOf("a")).toBe(
      `<p>Ünï <a class='x' href='/new page?x=1&amp;y=2' title="a > b">Old</a> and <a href="/new page?x=1&amp;y=2">again</a>, <a href="/kept">kept</a></p>`,
    );
    const [record] = [...outgoingLines(db, "bodies", "jsonl", run)].map((line) => JSON.parse(line) as object);
    expect(record).toEqual({ id: "a", kind: "product", address: "/a", name: "a", body: bodyOf("a") });
    while (readNextLinks(db) > 0);
    expect(mendedLinks(db)).toEqual([]);
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(bodyOf("a")).toBe(BODY);
    // What was to be mended is again.
    while (readNextLinks(db) > 0);
    expect(mendedLinks(db)).toHaveLength(2);
  });

  it("are left out one by one, as long as they are the same", () => {
    put("a", BODY);
    mendLinks(db, [{ item: 1, href: "/old", after: "/new" }]);
    const scope = { item: 1, text: "body", part: 2 } as const;
    const mark = review.markOf({}, scope);
    db.prepare("INSERT INTO change_choices (item_id, text, part, mark, included) VALUES (1, 'body', 2, ?, 0)").run(
      mark,
    );
    expect(review.summary({}).included).toBe(1);
    mendLinks(db, [{ item: 1, href: "/old", after: "/other" }]);
    expect(review.summary({}).included).toBe(2);
  });

  it("are skipped where the link is another one by then, and nothing else with them", () => {
    put("a", BODY);
    put("b", '<a href="/old">b</a>');
    mendLinks(db, [
      { item: 1, href: "/old", after: "/new" },
      { item: 2, href: "/old", after: "/new" },
    ]);
    const run = runOfReview(db, review, {});
    put("a", BODY.replace("href='/old'", "href='/changed'"));
    put("b", "");
    applyRun(db, run, { now });
    expect(outcome(run)).toEqual([
      "The link was changed meanwhile; it now leads to /changed",
      "applied",
      "The link is no longer at that place of the page",
    ]);
    expect(bodyOf("a")).toContain("<a href=/new>again");
  });

  it("and what is said of images are changed in one body, and both come back", () => {
    const piece = fc.constantFrom(
      '<a href="/old">x</a>',
      "<a href=/old>y</a>",
      '<a HREF = "/old"><img src="/i.jpg"></a>',
      '<img src="/i.jpg" alt="said">',
      "<p>&amp; text",
      '<a name="n"></a>',
    );
    const designs = { product: { base: { alt: "{name} {image.number}" }, rules: [] } };
    fc.assert(
      fc.property(
        fc.array(piece, { minLength: 1, maxLength: 8 }),
        fc.constantFrom("/n", "/n m", "/n\"o'"),
        (pieces, after) => {
          const body = pieces.join(" ");
          put("a", body);
          mendLinks(db, [{ item: 1, href: "/old", after }]);
          if (review.summary(designs).included === 0) return;
          const run = runOfReview(db, review, designs);
          applyRun(db, run, { now });
          expect(new Set(outcome(run))).toEqual(new Set(["applied"]));
          expect(linksOf(bodyOf("a"), "https://fennickdray.example/a").every(({ href }) => href === after)).toBe(true);
          applyRun(db, createTakeBack(db, run, now()), { now });
          expect(bodyOf("a")).toBe(body);
        },
      ),
      { numRuns: 60 },
    );
  });
});
