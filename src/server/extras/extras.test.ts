import { ALL_PAGES } from "../../core/items/query";
import { kindDesignSchema } from "../../core/design/schema";
import { beforeEach, describe, expect, it } from "vitest";
import { type KindDesign } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { type ExtraName } from "../../core/design/kinds";
import { findingIds } from "../../core/checks/findings";
import { imagesOf, withAlt, withTag } from "../../core/text/images";
import { DEMO_SITE } from "../../demo/site";
import { createEdit, editChunk, setEdit } from "../../store/edits";
import { itemWriter } from "../../store/bring-items";
import { readBody } from "../../store/items";
import { type Db, openStore } from "../../store/open";
import { chooseChange } from "../../store/review-choices";
import { changesAfter, readRun } from "../../store/runs";
import { nextRevision, writeSite } from "../../store/site";
import { runOfReview } from "../../test/run-of-review";
import { type EditAction, planEdit } from "../edits/plan-edit";
import { extraLines } from "../exchange/take-out";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { Review } from "../review/review";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { ExtraDesk } from "./extra-desk";

const now = () => "2026-11-26T10:00:00Z";
let db: Db;
let workspace: Workspace;
let review: Review;
let desk: ExtraDesk;

const THREAD = `<p>Oil it.</p>\n<IMG src='/i/waxed-thread_close-up-300x200.jpg' ALT=""  loading=lazy>\n<img alt="A spool &amp; more" src="/i/spool.jpg"><img src=/i/palm.jpg>`;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, { ...DEMO_SITE, extras: { alt: true, keywords: true, canonical: false } });
  workspace = new Workspace(db);
  review = new Review(workspace);
  desk = new ExtraDesk(workspace);
  put("thread", "Waxed thread", THREAD, { keyword: "waxed thread", category: "Ropework" });
  put("oar", "Oar", '<img src="/i/oar.jpg">', { keyword: "oar", meta_keywords: "oars, Boats " });
  put("rope", "Rope", "<p>No picture</p>");
});

function put(key: string, name: string, body: string, columns: Record<string, string> = {}): void {
  const item = { kind: "post" as const, key, path: `/notes/${key}`, attributes: null, byHand: null };
  itemWriter(db)({ ...item, columns: { name, slug: key, ...columns }, body }, nextRevision(db));
}

const idOf = (key: string) => db.prepare("SELECT id FROM items WHERE key = ?").pluck().get(key) as number;
const post = kindDesignSchema.parse({
  base: { alt: "{name}, {image.file}", keywords: "{keyword}[, {category:lower}]" },
  rules: [
    { id: "r", name: "Ropework", when: { field: "category", is: "Ropework" }, alt: "{name} {image.number} of 3" },
  ],
});
const designs: Designs = { post };
const texts = (design: KindDesign = post) => {
  const all = desk.texts("post", design, 0, 10).map((page) => page.map(({ text, part, draft }) => [text, part, draft]));
  return new Map(
    workspace.data("post").items.column("name").codes.length
      ? all.map((page, row) => [workspace.data("post").items.value("name", row), page])
      : [],
  );
};
const bodies = () => db.prepare("SELECT item_id, body FROM bodies ORDER BY item_id").all();
const applied = (run: number) => changesAfter(db, run, 0, 100).map(({ text, status }) => `${text} ${status}`);

function edit(key: string, action: EditAction): number {
  const view = new ItemsList(workspace, new SiteFindings(workspace, () => 2026)).chosen(designs, ALL, [[0, 10]]);
  const made = planEdit(
    workspace.site(),
    view.filter(({ view: { data }, row }) => data.ids[row] === idOf(key)),
    action,
  );
  const id = createEdit(db, made.label, made.changes, now());
  while (editChunk(db, id, 10) > 0);
  return id;
}
const ALL = { ...ALL_PAGES, side: "draft" as const };

describe("image descriptions", () => {
  it("are one for each image, of those that have none, by rule and base, with the image’s file and number", () => {
    expect(texts().get("Waxed thread")).toEqual(
      [
        ["alt", 1, "Waxed thread 1 of 3"],
        ["alt", 2, "A spool & more"],
        ["alt", 3, "Waxed thread 3 of 3"],
        ["keywords", 0, "waxed thread, ropework"],
      ].sort(([a], [b]) => String(a).localeCompare(String(b))),
    );
    expect(texts().get("Oar")![0]).toEqual(["alt", 1, "Oar, oar"]);
    expect(texts().get("Rope")).toEqual([["keywords", 0, ""]]);
    const base = kindDesignSchema.parse({ base: { alt: "{image.file:sentence}" } });
    expect(texts(base).get("Waxed thread")![0]).toEqual(["alt", 1, "Waxed thread close up"]);
    expect(desk.prove("post", post, "alt")).toMatchObject({ wanted: 3, pages: 2, filled: 3, same: 0, longest: 19 });
  });

  it("are no fields of other texts", () => {
    const title = kindDesignSchema.parse({ base: { title: "{image.file}" } });
    expect(workspace.textProof("post", "title", title).faults[0]!.message).toMatch(/image\.file/);
  });

  it("go out by review and run, and come back byte by byte", () => {
    const before = bodies();
    expect(review.summary(designs)).toMatchObject({ total: 5, included: 5, items: 2 });
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    expect(readRun(db, run)).toMatchObject({ alts: 3, keywords: 2, items: 2, applied: 5, waiting: 0 });
    expect(readBody(db, idOf("thread"))).toBe(
      THREAD.replace('ALT=""', 'alt="Waxed thread 1 of 3"').replace(
        "<img src=/i/palm.jpg>",
        '<img alt="Waxed thread 3 of 3" src=/i/palm.jpg>',
      ),
    );
    expect(db.prepare("SELECT meta_keywords FROM items WHERE key = 'oar'").pluck().get()).toBe("oar");
    expect(review.summary(designs).total).toBe(0);
    const back = createTakeBack(db, run, now());
    applyRun(db, back, { now });
    expect(readRun(db, back)).toMatchObject({ alts: 3, keywords: 2, applied: 5 });
    expect(bodies()).toEqual(before);
    expect(db.prepare("SELECT meta_keywords FROM items WHERE key = 'oar'").pluck().get()).toBe("oars, Boats ");
  });

  it("leave alone an image that is another by then, or that somebody described", () => {
    const run = runOfReview(db, review, designs);
    const body = readBody(db, idOf("thread"));
    const [first, , third] = imagesOf(body);
    const described = withTag(body, third!, withAlt(third!.tag, "A palm"));
    const write = db.prepare("UPDATE bodies SET body = ? WHERE item_id = ?");
    write.run(withTag(described, first!, '<img src="/i/other.jpg">'), idOf("thread"));
    applyRun(db, run, { now });
    const changes = changesAfter(db, run, 0, 100).filter(({ text }) => text === "alt");
    expect(changes.map(({ image, status, reason }) => [image, status, reason])).toEqual([
      ["/i/waxed-thread_close-up-300x200.jpg", "skipped", "The image is no longer at that place of the page"],
      ["/i/palm.jpg", "skipped", "The image description was changed meanwhile; it now reads “A palm”"],
      ["/i/oar.jpg", "applied", null],
    ]);
    expect(imagesOf(readBody(db, idOf("thread"))).map(({ alt }) => alt)).toEqual(["", "A spool & more", "A palm"]);
  });

  it("keep what else of an image’s tag changed since, when they are undone", () => {
    const run = runOfReview(db, review, designs);
    applyRun(db, run, { now });
    const body = readBody(db, idOf("oar"));
    db.prepare("UPDATE bodies SET body = ? WHERE item_id = ?").run(body.replace("<img", "<img width=300"), idOf("oar"));
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(readBody(db, idOf("oar"))).toBe('<img width=300 alt="" src="/i/oar.jpg">');
  });

  it("can be left out one by one", () => {
    const scope = { item: idOf("thread"), text: "alt" as const, part: 3 };
    review.summary(designs);
    chooseChange(db, scope, review.markOf(designs, scope), false);
    expect(review.summary(designs)).toMatchObject({ total: 5, included: 4 });
    applyRun(db, runOfReview(db, review, designs), { now });
    expect(imagesOf(readBody(db, idOf("thread"))).map(({ alt }) => alt !== "")).toEqual([true, true, false]);
  });

  it("are in no review where the site has not switched them on", () => {
    writeSite(db, DEMO_SITE);
    expect(review.summary(designs).total).toBe(0);
  });
});

describe("extra texts by hand", () => {
  it("stand before every line, on described images too, go out by a run, and can be undone", () => {
    const image = { type: "describe", field: "alt", image: "/i/spool.jpg" } as const;
    const first = edit("thread", { ...image, value: " A  spool of <b>thread</b> " });
    edit("thread", { type: "set", field: "keywords", value: "thread, twine" });
    expect(texts().get("Waxed thread")).toEqual(
      expect.arrayContaining([
        ["alt", 2, "A spool of thread"],
        ["keywords", 0, "thread, twine"],
      ]),
    );
    const groups = review.summary(designs).groups.find(({ group }) => group === "written")!;
    expect(groups.byText).toMatchObject({ alt: 1, keywords: 1 });
    applyRun(db, runOfReview(db, review, designs), { now });
    expect(imagesOf(readBody(db, idOf("thread")))[1]!.alt).toBe("A spool of thread");
    setEdit(db, first, "undone", "running");
    while (editChunk(db, first, 10) > 0);
    expect(db.prepare("SELECT text FROM hand_extras").pluck().all()).toEqual(["keywords"]);
  });

  it("are set back to the line, and then are what the line makes of them", () => {
    edit("oar", { type: "describe", field: "alt", image: "/i/oar.jpg", value: "Mine" });
    expect(texts().get("Oar")![0]).toEqual(["alt", 1, "Mine"]);
    edit("oar", { type: "undescribe", field: "alt", image: "/i/oar.jpg" });
    expect(texts().get("Oar")![0]).toEqual(["alt", 1, "Oar, oar"]);
  });

  it("written after a run was frozen are not overwritten by it", () => {
    const run = runOfReview(db, review, designs);
    edit("oar", { type: "describe", field: "alt", image: "/i/oar.jpg", value: "Mine" });
    edit("oar", { type: "set", field: "keywords", value: "mine" });
    applyRun(db, run, { now });
    const own = changesAfter(db, run, 0, 100).filter(({ item_id }) => item_id === idOf("oar"));
    expect(own.map(({ reason }) => reason)).toEqual([
      "The image description was written by hand meanwhile",
      "The meta keywords were written by hand meanwhile",
    ]);
    expect(applied(run).filter((change) => change.endsWith("applied"))).toHaveLength(3);
  });
});

describe("what is found of images", () => {
  const found = (side: "live" | "draft", of: Designs = designs) => {
    const bits = new SiteFindings(workspace, () => 2026).find(of, side).get("post")!.page;
    return Object.fromEntries(
      ["thread", "oar", "rope"].map((key) => [
        key,
        findingIds("page", bits[workspace.data("post").rowOf(idOf(key))]!).filter((id) => id.includes("image")),
      ]),
    );
  };

  it("answers to the drafts", () => {
    const all = ["keyword-not-in-images", "image-undescribed"];
    expect(found("live")).toEqual({ thread: all, oar: all, rope: [] });
    expect(found("draft")).toEqual({ thread: [], oar: [], rope: [] });
    const vague = { post: kindDesignSchema.parse({ base: { alt: "A picture" } }) };
    expect(found("draft", vague)).toEqual({ thread: all.slice(0, 1), oar: all.slice(0, 1), rope: [] });
  });

  it("says nothing of missing descriptions where they are not switched on", () => {
    writeSite(db, DEMO_SITE);
    expect(found("live")).toEqual({ thread: ["keyword-not-in-images"], oar: ["keyword-not-in-images"], rope: [] });
  });
});

describe("extra lines", () => {
  it("say what is wrong with them, and make nothing then", () => {
    const faulty = desk.prove("post", kindDesignSchema.parse({ base: { keywords: "{keywort}" } }), "keywords");
    expect(faulty.faults[0]!.message).toMatch(/keyword/);
    expect(faulty.filled).toBe(0);
  });

  it("go out one text to a row, formulas made harmless and named", async () => {
    edit("oar", { type: "set", field: "keywords", value: "=SUM(A1)" });
    const rowsOf = (kind: string, from: number) =>
      Promise.resolve(
        kind !== "post" || from > 0
          ? []
          : desk
              .texts("post", post, 0, 10)
              .map((own, i) => ({ kind: "post" as const, id: `${i}`, address: "/a", texts: own })),
      );
    const lines: string[] = [];
    for await (const line of extraLines("csv", ["post"], rowsOf)) lines.push(line.trim());
    expect(lines).toHaveLength(1 + 4 + 2);
    expect(lines.at(-1)).toBe(
      'post,1,/a,keywords,,,"oars, Boats",\'=SUM(A1),draft'.replace('"oars, Boats"', '"oars, Boats "'),
    );
    expect(lines[1]).toBe("post,0,/a,alt,1,/i/waxed-thread_close-up-300x200.jpg,,Waxed thread 1 of 3,");
  });

  it.each<[ExtraName, number]>([
    ["alt", 3],
    ["keywords", 3],
  ])("are proved anew where a keyword, a body or a setting is another: %s", (extra, wanted) => {
    expect(desk.prove("post", post, extra).wanted).toBe(wanted);
    put("new", "New", '<img src="/x.jpg">');
    expect(desk.prove("post", post, extra).wanted).toBe(wanted + 1);
    edit("oar", { type: "set", field: "keyword", value: "long oar" });
    const own = kindDesignSchema.parse({ base: { alt: "{keyword}", keywords: "{keyword}" } });
    const drafts = desk.texts("post", own, 1, 1)[0]!.map(({ draft }) => draft);
    expect(drafts).toEqual(["long oar", "long oar"]);
  });
});
