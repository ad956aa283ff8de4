import { siteSchema } from "../../core/design/schema";
import { beforeEach, describe, expect, it } from "vitest";
import { type Designs } from "../../core/design/designs";
import { type Kind, kindIds } from "../../core/design/kinds";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { nextRevision, readSite, writeSite } from "../../store/site";
import { planEdit } from "../edits/plan-edit";
import { ItemsList } from "../items/items-list";
import { findChanges } from "../review/found-changes";
import { SiteFindings } from "../findings/site-findings";
import { Workspace } from "./workspace";
import { movingDesign } from "../../test/moving-design";

let db: Db;
const PATHS: Record<Kind, string> = {
  post: "/notes/knots",
  product: "/rope/oak-rope",
  category: "/rope",
  page: "/about-us",
  tag: "/tag/brass",
  author: "/author/ada",
  home: "/",
};

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, siteSchema.parse({ name: "Fennick & Dray", baseUrl: "https://fennickdray.example" }));
  const bring = itemWriter(db);
  const revision = nextRevision(db);
  for (const kind of kindIds(null)) {
    const slug = PATHS[kind]!.split("/").at(-1)!;
    const columns = { name: `The ${kind}`, title: `Old ${kind}`, slug };
    bring(
      { key: `${kind}-1`, kind, path: PATHS[kind]!, columns, attributes: null, body: null, byHand: null },
      revision,
    );
  }
});

const designs: Designs = Object.fromEntries(
  kindIds(null).map((kind) => [kind, movingDesign({ title: "{name} now", slug: "new-{name}" })]),
);

describe("every kind of page", () => {
  it("is designed and reviewed", () => {
    const workspace = new Workspace(db);
    const { changes, units } = workspace.at(() => findChanges(workspace, designs, { mends: [], stamp: "stamp" }, {}));
    const changed = (text: string) =>
      Array.from({ length: changes.length }, (_, place) => units[changes.unitOf(place)]!)
        .filter((unit) => unit.text === text)
        .map(({ kind }) => kind)
        .sort();
    expect(changed("title")).toEqual([...kindIds(null)].sort());
    expect(changed("slug")).toEqual(
      kindIds(null)
        .filter((kind) => kind !== "home")
        .sort(),
    );
  });

  it("of which the home page has no slug: no line makes one, and that there is none is no fault", () => {
    const workspace = new Workspace(db);
    const { proof } = workspace.at(() => workspace.textProof("home", "slug", designs.home!));
    expect(proof.textOf(0)).toBe("");
    const found = workspace.at(() => new SiteFindings(workspace, () => 2026).find(designs, "live"));
    expect([...found.get("home")!.slug]).toEqual([0]);
  });

  it("of which the home page is given no slug by hand; the others are", () => {
    const workspace = new Workspace(db);
    const list = new ItemsList(workspace, new SiteFindings(workspace, () => 2026));
    const query = { kind: "all", side: "draft", findings: [], difference: null, where: null, mark: null } as const;
    const all = { ...query, search: "", sort: "site", down: false, group: null };
    const plan = workspace.at(() =>
      planEdit(readSite(db)!, list.chosen(designs, all, [[0, kindIds(null).length]]), {
        type: "set",
        field: "slug",
        value: "other",
      }),
    );
    expect(plan.changes.length).toBe(kindIds(null).length - 1);
    expect(plan.refused).toEqual([
      {
        reason: "The slug is none on the home page, which stays at the site’s own address",
        count: 1,
        example: "The home",
      },
    ]);
  });
});
