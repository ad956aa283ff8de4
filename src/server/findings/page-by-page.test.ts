import { kindDesignSchema } from "../../core/design/schema";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { findingBit, findingIds, SUBJECTS } from "../../core/checks/findings";
import { TEXTS, type TextName } from "../../core/design/kinds";
import { FROM } from "../../core/proof/text-proof";
import { DEMO_SITE } from "../../demo/site";
import { type EditChange, createEdit, editChunk } from "../../store/edits";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { nextRevision, writeSite } from "../../store/site";
import { LINE_FIELDS, randomItem, randomLine } from "../../test/random-lines";
import { Workspace } from "../workspace/workspace";
import { SiteFindings } from "./site-findings";

/** How many random sites; `FUZZ` asks for more. */
const RUNS = Math.ceil(Number(process.env["FUZZ"] ?? 1000) / 40);

const text = fc.stringMatching(/^[a-zA-Z&"’ .!-]{0,40}$/);
const page = fc.record({
  fields: randomItem,
  live: fc.record({ title: text, description: text, slug: fc.stringMatching(/^[a-zA-Z_-]{0,30}$/) }),
  hand: fc.option(fc.record({ text: fc.constantFrom(...TEXTS), value: fc.stringMatching(/^[a-z]{1,30}$/) }), {
    nil: null,
  }),
  robots: fc.constantFrom("", "noindex, follow"),
  body: fc.option(
    text.map((own) => `<h2>${own}</h2><p>${own}</p><img src="/a.jpg" alt="${own.replaceAll('"', "")}">`),
    { nil: null },
  ),
});
type Page = typeof page extends fc.Arbitrary<infer T> ? T : never;

const rule = fc.record({
  has: fc.constantFrom(...LINE_FIELDS),
  title: fc.option(randomLine, { nil: undefined }),
  slug: fc.option(randomLine, { nil: undefined }),
});
const design = fc.record({
  title: randomLine,
  description: randomLine,
  slug: randomLine,
  rules: fc.array(rule, { maxLength: 2 }),
});

/** What only other pages can say of one. */
const COMPARED = new Set(["duplicate", "near-duplicate", "keyword-shared"]);

function siteOf(pages: readonly (Page & { readonly at: number })[]): Db {
  const db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const write = itemWriter(db);
  const hands: EditChange[] = [];
  for (const { fields, live, hand, robots, body, at } of pages) {
    const { colour, size, ...columns } = fields;
    const path = `/${at}/${live.slug || "page"}`;
    const input = { kind: "product" as const, key: `k${at}`, path, attributes: { colour, size }, body, byHand: null };
    write({ ...input, columns: { ...columns, ...live, robots } }, nextRevision(db));
    const item = Number(db.prepare("SELECT max(id) FROM items").pluck().get());
    if (hand) hands.push({ item, field: hand.text, before: null, after: hand.value });
  }
  if (hands.length > 0) {
    const id = createEdit(db, "by hand", hands, "2026-11-26T00:00:00Z");
    while (editChunk(db, id, 100) > 0);
  }
  return db;
}

describe("a site", () => {
  it("is of each page what it would be of that page alone: texts, widths, what is by hand, findings of both sides", () => {
    fc.assert(
      fc.property(fc.array(page, { minLength: 2, maxLength: 5 }), design, (pages, { rules, ...base }) => {
        const parsed = kindDesignSchema.safeParse({
          base,
          rules: rules.map(({ has, title, slug }, i) => ({
            id: `r${i}`,
            name: `Rule ${i}`,
            when: { field: has, "is filled": true },
            ...(title === undefined ? {} : { title }),
            ...(slug === undefined ? {} : { slug }),
          })),
        });
        if (!parsed.success) return;
        const designs = { product: parsed.data };
        const look = (own: readonly (Page & { at: number })[]) => {
          const workspace = new Workspace(siteOf(own));
          const findings = new SiteFindings(workspace, () => 2026);
          const found = { live: findings.find(designs, "live"), draft: findings.find(designs, "draft") };
          return own.map((_, row) => ({
            texts: TEXTS.map((name: TextName) => {
              const { proof } = workspace.textProof("product", name, designs.product);
              const { sizes, fits, form, keywordAt, keywordSeen, from } = proof;
              return [
                proof.textOf(row),
                sizes[row],
                fits[row],
                form[row],
                keywordAt[row],
                keywordSeen[row],
                FROM[from[row]!],
              ];
            }),
            robots: workspace.robots("product", designs.product)(row),
            found: (["live", "draft"] as const).map((side) =>
              SUBJECTS.map((subject) =>
                findingIds(subject, found[side].get("product")![subject][row]!).filter((id) => !COMPARED.has(id)),
              ),
            ),
            duplicate: (["live", "draft"] as const).map((side) =>
              TEXTS.map((name) => (found[side].get("product")![name][row]! & findingBit(name, "duplicate")) !== 0),
            ),
          }));
        };
        const numbered = pages.map((own, at) => ({ ...own, at }));
        const whole = look(numbered);
        numbered.forEach((own, row) => {
          const [alone] = look([own]);
          const { duplicate: _, ...apart } = whole[row]!;
          const { duplicate: _none, ...expected } = alone!;
          expect(apart).toEqual(expected);
        });
        // What two pages have alike is told by comparing them plainly.
        const drafts = whole.map(({ texts }) => String(texts[0]![0]).toLowerCase());
        whole.forEach(({ duplicate }, row) => {
          const isAlike = drafts[row] !== "" && drafts.filter((own) => own === drafts[row]).length > 1;
          expect(duplicate[1]![0]).toBe(isAlike);
        });
      }),
      { numRuns: RUNS },
    );
  });
});
