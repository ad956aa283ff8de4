import { beforeEach, describe, expect, it } from "vitest";
import { baseDesign } from "../../core/design/design";
import { KNOWN_KINDS } from "../../core/design/kinds";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { type ItemInput } from "../../store/items";
import { type Db, openStore } from "../../store/open";
import { nextRevision, writeSite } from "../../store/site";
import { Workspace } from "./workspace";

let db: Db;
let workspace: Workspace;
const put = (kind: string, key: string, columns: ItemInput["columns"]) =>
  itemWriter(db)(
    { kind, key, path: `/${kind}/${key}`, columns, attributes: null, body: null, byHand: null },
    nextRevision(db),
  );

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  put("category", "c1", { name: "Rope", category: "" });
  put("category", "c2", { name: "Twine", category: "c1" });
  put("product", "1", { name: "Hemp twine", category: "c2" });
  put("product", "2", { name: "Anchor", category: "Ground tackle", category_path: "Deck › Ground tackle" });
  workspace = new Workspace(db);
});
const titles = (kind: string, title = "{name} / {category} / {category.path}") => {
  const { proof } = workspace.textProof(kind, "title", baseDesign({ title }));
  return [...workspace.data(kind).ids].map((_, row) => proof.textOf(row));
};

describe("categories that are pages", () => {
  it("are what {category} reads and “is under” goes by; others are as the page says", () => {
    expect(titles("product")).toEqual([
      "Hemp twine / Twine / Rope › Twine",
      "Anchor / Ground tackle / Deck › Ground tackle",
    ]);
    expect(titles("category")).toEqual(["Rope / Rope", "Twine / Rope / Rope › Twine"]);
    const under = (kind: string, category: string) => [
      ...workspace.rules(kind).rows({ field: "category", "is under": category }),
    ];
    expect(under("product", "Rope")).toEqual([1, 0]);
    expect(under("product", "Deck")).toEqual([0, 1]);
    expect(under("category", "Rope")).toEqual([1, 1]);
  });

  it("reach the pages in them when they are called otherwise, stand elsewhere, or go", () => {
    expect(titles("product")[0]).toContain("Rope › Twine");
    put("category", "c2", { name: "Cord" });
    expect(titles("product")[0]).toBe("Hemp twine / Cord / Rope › Cord");
    put("category", "c2", { category: "" });
    expect(titles("product")[0]).toBe("Hemp twine / Cord / Cord");
    db.prepare("DELETE FROM items WHERE kind = 'category'").run();
    nextRevision(db);
    expect(titles("product")[0]).toBe("Hemp twine / c2");
  });

  it("do not make the pages in them load anew for a text", () => {
    titles("product");
    const { loading } = workspace.data("product");
    put("category", "c2", { title: "Twine for sale" });
    expect(workspace.data("product").loading).toBe(loading);
  });

  it("are texts again where the site says that they are no tree", () => {
    titles("product");
    writeSite(db, { ...DEMO_SITE, kinds: [{ ...KNOWN_KINDS[2]!, isTree: false }] });
    expect(titles("product")[0]).toBe("Hemp twine / c2");
  });

  it("are a kind of the site’s own where that is a tree", () => {
    const place = { id: "place", one: "place", many: "places", isTree: true, isSingle: false, words: [] };
    writeSite(db, { ...DEMO_SITE, kinds: [place] });
    put("place", "p1", { name: "North coast" });
    put("place", "p2", { name: "Harbour town", category: "p1" });
    expect(titles("place")).toEqual([
      "North coast / North coast",
      "Harbour town / North coast / North coast › Harbour town",
    ]);
    writeSite(db, { ...DEMO_SITE, kinds: [{ ...place, isTree: false }] });
    expect(titles("place")[1]).toBe("Harbour town / p1");
  });
});
