import { noTexts } from "../core/plan/review-filter";
import { beforeEach, describe, expect, it } from "vitest";
import { baseDesign, EMPTY_DESIGN, type KindDesign } from "../core/design/design";
import { readDraft, writeDraft } from "./drafts";
import { forgetView, listViews, putView } from "./named-views";
import { type Db, openStore } from "./open";
import { beginRun, finishRun } from "./runs";
import { deleteVersion, listVersions, readVersion, saveVersion } from "./versions";

let db: Db;
beforeEach(() => {
  db = openStore(":memory:");
});
const [morning, noon] = ["2026-11-25T08:00:00Z", "2026-11-25T12:00:00Z"];

describe("drafts", () => {
  it("count up with every write, kind by kind", () => {
    expect(readDraft(db, "post")).toEqual({ design: EMPTY_DESIGN, version: 0, savedAt: null });
    expect(writeDraft(db, "post", baseDesign({ title: "{name}" }), morning).version).toBe(1);
    expect(writeDraft(db, "post", baseDesign({ title: "{name}!" }), noon).version).toBe(2);
    expect(readDraft(db, "post")).toEqual({
      design: baseDesign({ title: "{name}!" }),
      version: 2,
      savedAt: noon,
    });
    expect(readDraft(db, "product").version).toBe(0);
  });
});

describe("versions", () => {
  const save = (kind: string, name: string, design: KindDesign, now = morning, run: number | null = null) =>
    saveVersion(db, { kind, name, design, run }, now);

  it("never write over one another: a name that is taken gets a number", () => {
    const names = ["Short", "Short", "Short"].map((name) => save("post", name, baseDesign({ title: name })).name);
    expect(names).toEqual(["Short", "Short (2)", "Short (3)"]);
    expect(save("product", "Short", baseDesign({})).name).toBe("Short");
  });

  it("are listed the newest first, read whole, and deleted one by one", () => {
    const old = save("post", "Old", baseDesign({ title: "{name} old" }));
    const late = save("post", "Late", baseDesign({ title: "{name} late" }), noon);
    expect(listVersions(db, "post").map(({ name }) => name)).toEqual(["Late", "Old"]);
    expect(readVersion(db, old.id)).toMatchObject({
      kind: "post",
      name: "Old",
      design: { base: { title: "{name} old" } },
    });
    deleteVersion(db, old.id);
    expect(readVersion(db, old.id)).toBeNull();
    expect(listVersions(db, "post")).toEqual([
      { id: late.id, kind: "post", name: "Late", savedAt: noon, run: null, isUndone: false },
    ]);
  });

  it("of a run stay with it, and say when it was undone", () => {
    const run = beginRun(db, { name: "", note: "", design: "{}", click: null, now: noon });
    finishRun(db, run, { ...noTexts(), title: 1, address: 0 }, 1);
    const { id } = save("post", `Run ${run}`, baseDesign({ title: "{name}" }), noon, run);
    deleteVersion(db, id);
    expect(listVersions(db, "post")).toMatchObject([{ name: "Run 1", run, isUndone: false }]);
    db.prepare(
      "INSERT INTO runs (type, of_run, status, name, note, design, created_at, frozen) SELECT 'take-back', id, status, '', '', '', created_at, 1 FROM runs",
    ).run();
    db.prepare("UPDATE runs SET taken_back_by = 2 WHERE id = 1").run();
    expect(readVersion(db, id)).toMatchObject({ isUndone: true });
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
