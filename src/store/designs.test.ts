import { beforeEach, describe, expect, it } from "vitest";
import { baseDesign, EMPTY_DESIGN } from "../core/design/design";
import { readDesign, writeDesign } from "./designs";
import { forgetNamedDraft, listNamedDrafts, putAside, readNamedDraft } from "./named-drafts";
import { forgetView, listViews, putView } from "./named-views";
import { type Db, openStore } from "./open";

let db: Db;
beforeEach(() => {
  db = openStore(":memory:");
});
const [morning, noon] = ["2026-11-25T08:00:00Z", "2026-11-25T12:00:00Z"];

describe("designs", () => {
  it("count up with every write, drafts and kept ones apart, kind by kind", () => {
    expect(readDesign(db, "draft", "post")).toEqual({ design: EMPTY_DESIGN, version: 0, savedAt: null });
    expect(writeDesign(db, "draft", "post", baseDesign({ title: "{name}" }), morning).version).toBe(1);
    expect(writeDesign(db, "draft", "post", baseDesign({ title: "{name}!" }), noon).version).toBe(2);
    expect(writeDesign(db, "kept", "post", baseDesign({ slug: "{name}" }), noon).version).toBe(1);
    expect(readDesign(db, "draft", "post")).toEqual({
      design: baseDesign({ title: "{name}!" }),
      version: 2,
      savedAt: noon,
    });
    expect(readDesign(db, "kept", "post").design.base).toEqual({ slug: "{name}" });
    expect(readDesign(db, "draft", "product").version).toBe(0);
  });
});

describe("drafts put aside", () => {
  it("never write over one another: a name that is taken gets a number", () => {
    const names = ["Short", "Short", "Short"].map(
      (name) => putAside(db, "post", name, baseDesign({ title: name }), morning).name,
    );
    expect(names).toEqual(["Short", "Short (2)", "Short (3)"]);
    expect(putAside(db, "product", "Short", baseDesign({}), morning).name).toBe("Short");
  });

  it("are listed the newest first, read whole, and forgotten one by one", () => {
    const old = putAside(db, "post", "Old", baseDesign({ title: "{name} old" }), morning);
    const late = putAside(db, "post", "Late", baseDesign({ title: "{name} late" }), noon);
    expect(listNamedDrafts(db, "post").map(({ name }) => name)).toEqual(["Late", "Old"]);
    expect(readNamedDraft(db, old.id)).toMatchObject({
      kind: "post",
      name: "Old",
      design: { base: { title: "{name} old" } },
    });
    forgetNamedDraft(db, old.id);
    expect(readNamedDraft(db, old.id)).toBeNull();
    expect(listNamedDrafts(db, "post")).toEqual([{ id: late.id, kind: "post", name: "Late", savedAt: noon }]);
  });
});

describe("named views", () => {
  it("are replaced by one of the same name, and listed by name whatever its case", () => {
    for (const [name, query] of [
      ["too wide", "a"],
      ["Ropes", "b"],
      ["áccents", "c"],
      ["too wide", "d"],
    ] as const)
      putView(db, { name, query }, morning);
    expect(listViews(db)).toEqual([
      { name: "Ropes", query: "b" },
      { name: "too wide", query: "d" },
      { name: "áccents", query: "c" },
    ]);
    forgetView(db, "Ropes");
    forgetView(db, "never there");
    expect(listViews(db).map(({ name }) => name)).toEqual(["too wide", "áccents"]);
  });
});
