import { describe, expect, it } from "vitest";
import { findingBit } from "../../core/checks/findings";
import { baseDesign, type Site } from "../../core/design/design";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { openStore } from "../../store/open";
import { nextRevision, writeSite } from "../../store/site";
import { SiteFindings } from "../findings/site-findings";
import { Workspace } from "./workspace";

/** Two pages that share four of five words of their titles. */
const PAGES = [
  { key: "1", name: "FENNICK OAK OARS IN PAIRS", title: "Long oak oars in pairs", published: "2024-03-04" },
  { key: "2", name: "Brass lamp", title: "Short oak oars in pairs", published: "2024-05-06" },
];

/** A workspace whose settings can be saved while it is open, as the server's is. */
function opened() {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const write = itemWriter(db);
  for (const { key, ...columns } of PAGES)
    write(
      { kind: "product", key, path: `/${key}`, columns, attributes: null, body: null, byHand: null },
      nextRevision(db),
    );
  const workspace = new Workspace(db);
  return { workspace, save: (change: Partial<Site>) => writeSite(db, { ...DEMO_SITE, ...change }) };
}

describe("a setting that is saved reaches what rests on it", () => {
  const textOf = (workspace: Workspace, title: string) =>
    workspace.textProof("product", "title", baseDesign({ title })).proof.textOf(0);

  it.each<[string, Partial<Site>, string, string, string]>([
    [
      "fixed words",
      { fixedWords: ["FENNICK"] },
      "{name:calm}",
      "Fennick oak oars in pairs",
      "FENNICK oak oars in pairs",
    ],
    ["language", { language: "de" }, "{published:date(MMMM yyyy)}", "March 2024", "März 2024"],
    ["separator", { sep: "·" }, "{name:words(1)} {sep} x", "FENNICK – x", "FENNICK · x"],
    ["separator, filtered", { sep: "·" }, "{name:words(1)} {sep:replace(·,+)} x", "FENNICK – x", "FENNICK + x"],
    ["name", { name: "Dray & Sons" }, "{site}", "Fennick & Dray", "Dray & Sons"],
  ])("%s: lines", (_, change, line, before, after) => {
    const { workspace, save } = opened();
    expect(textOf(workspace, line)).toBe(before);
    save(change);
    expect(textOf(workspace, line)).toBe(after);
  });

  it("how much near duplicates share: findings", () => {
    const { workspace, save } = opened();
    const findings = new SiteFindings(workspace, () => 2026);
    const near = () =>
      [...findings.find({}, "live").get("product")!.title].map(
        (bits) => (bits & findingBit("title", "near-duplicate")) !== 0,
      );
    expect(near()).toEqual([true, true]);
    save({ checks: { ...DEMO_SITE.checks, nearShare: 0.9 } });
    expect(near()).toEqual([false, false]);
  });
});
