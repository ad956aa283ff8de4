import { describe, expect, it } from "vitest";
import { type Target } from "../../core/design/import-targets";
import { openStore } from "../../store/open";
import { firstMapping, rememberMapping } from "./remembered-mapping";

const HEADER = ["Artikel", "Pfad", "Überschrift", "EK"];
const targets: readonly Target[] = ["id", "address", "name", "skip"];

describe("what was said of a file's columns", () => {
  it("is what the next such file's are, with its kind, its figures and who wrote its texts", () => {
    const db = openStore(":memory:");
    expect(firstMapping(db, null, HEADER, [])).toMatchObject({ kind: null, byHand: null, isRemembered: false });
    const formats = [null, null, null, { number: "comma" as const }];
    rememberMapping(db, HEADER, { targets, kind: "category", formats }, "none");
    expect(firstMapping(db, null, HEADER, [])).toEqual({
      targets,
      formats,
      kind: "category",
      byHand: "none",
      isRemembered: true,
    });
    rememberMapping(db, HEADER, { targets: ["id", "address", "name", "price"], kind: "product", formats }, "all");
    expect(firstMapping(db, null, HEADER, [])).toMatchObject({
      targets: ["id", "address", "name", "price"],
      kind: "product",
    });
  });

  it("holds by the columns' names, in whatever order and case; a new column is what its name tells", () => {
    const db = openStore(":memory:");
    rememberMapping(db, HEADER, { targets, kind: "product" }, "none");
    const made = firstMapping(db, null, ["meta title", " EK", "PFAD", "artikel"], []);
    expect(made).toMatchObject({ targets: ["title", "skip", "address", "id"], kind: null, isRemembered: true });
    expect(made.formats[0]).toBeUndefined();
  });

  it("is left aside where two columns would be one then", () => {
    const db = openStore(":memory:");
    rememberMapping(db, ["nr", "url"], { targets: ["id", "address"], kind: "product" }, "none");
    rememberMapping(db, ["nummer", "url"], { targets: ["id", "address"], kind: "product" }, "none");
    expect(firstMapping(db, null, ["nr", "nummer", "url"], [])).toMatchObject({ isRemembered: false, kind: null });
  });

  it("is another site's on another site", () => {
    const [one, other] = [openStore(":memory:"), openStore(":memory:")];
    rememberMapping(one, HEADER, { targets, kind: "category" }, "none");
    expect(firstMapping(other, null, HEADER, []).isRemembered).toBe(false);
  });
});
