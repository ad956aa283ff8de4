import { beforeAll, describe, expect, it } from "vitest";
import { htmlParts } from "../../core/text/plain";
import { kindDesignSchema } from "../../core/design/design";
import { loadDemo } from "../../demo/load";
import { type Db, openStore } from "../../store/open";
import { Workspace } from "../workspace/workspace";
import { type ExtraRow, extraLines } from "../exchange/take-out";
import { ExtraDesk } from "./extra-desk";

let db: Db;
let engine: Workspace;
beforeAll(() => {
  db = openStore(":memory:");
  loadDemo(db, { products: 84 });
  engine = new Workspace(db);
});

const design = kindDesignSchema.parse({
  base: { alt: "{name}[, {series}]", keywords: "{keyword}[, {series:lower}]" },
  rules: [{ id: "r", name: "Ropework", when: { field: "series", is: "Ropework" }, alt: "Ropework: {name}" }],
});

describe("extra texts", () => {
  it("describe images that have no description, on the pages that have such", () => {
    const bodies = db
      .prepare("SELECT body FROM items JOIN bodies ON bodies.item_id = items.id WHERE kind = 'post'")
      .pluck()
      .all() as string[];
    const bare = bodies.map((body) => htmlParts(body).images.filter((alt) => alt === "").length);
    const extra = new ExtraDesk(engine).prove("post", design, "alt");
    expect(extra.images).toBe(bare.reduce((sum, n) => sum + n, 0));
    expect(extra.pages).toBe(bare.filter((n) => n > 0).length);
    expect(extra.pages).toBeGreaterThan(100);
    expect(extra.filled).toBe(extra.pages);
    expect(new ExtraDesk(engine).prove("product", design, "alt").pages).toBe(0);
  });

  it("are made by rules before the base, and are none where a line's fields are empty", () => {
    const rows = new ExtraDesk(engine).texts("post", design, "keywords", 0, 906);
    const data = engine.data("post");
    rows.forEach((text, row) => {
      const [keyword, series] = [data.items.value("keyword", row), data.items.value("series", row).toLowerCase()];
      expect(text ?? "").toBe([keyword, series].filter(Boolean).join(", "));
    });
    const alts = new ExtraDesk(engine)
      .texts("post", design, "alt", 0, 906)
      .flatMap((text) => (text === null ? [] : [text]));
    expect(alts.some((text) => text.startsWith("Ropework: "))).toBe(true);
    expect(alts.some((text) => !text.startsWith("Ropework: "))).toBe(true);
  });

  it("say what is wrong with a line, and make nothing of it", () => {
    const faulty = new ExtraDesk(engine).prove(
      "post",
      kindDesignSchema.parse({ base: { keywords: "{keywort}" } }),
      "keywords",
    );
    expect(faulty.faults[0]!.message).toMatch(/keyword/);
    expect(faulty.filled).toBe(0);
  });

  it("go out as lines, only of pages that have some, formulas made harmless", async () => {
    const all: ExtraRow[] = [
      { kind: "post", id: "1", address: "/a", alt: "=SUM(A1)", keywords: null },
      { kind: "post", id: "2", address: "/b", alt: null, keywords: null },
    ];
    const lines: string[] = [];
    for await (const line of extraLines("csv", (kind, from) =>
      Promise.resolve(kind === "post" && from === 0 ? all : []),
    ))
      lines.push(line.trim());
    expect(lines).toHaveLength(2);
    expect(lines[1]).toContain("'=SUM(A1)");
  });
});
