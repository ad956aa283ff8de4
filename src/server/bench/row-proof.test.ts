import { beforeAll, describe, expect, it } from "vitest";
import { type Site } from "../../core/design/design";
import { type TextName, TEXTS } from "../../core/design/kinds";
import { parseLine } from "../../core/lines/parse";
import { FORMS } from "../../core/keywords/place";
import { loadDemo } from "../../demo/load";
import { linesOf } from "../../core/design/change-rules";
import { DEMO_LINES, DEMO_RULES, DEMO_SITE } from "../../demo/site";
import { Workspace } from "../workspace/workspace";
import { openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { type LineOf, type ProvableRow, rowProverOf } from "../../core/proof/row-proof";
import { drawnKeyword } from "../../core/proof/drawn-keyword";
import { BenchDesk } from "./bench-desk";

let engine: Workspace;
const proveRows = (rows: readonly ProvableRow[], lineOf: LineOf, text: TextName, site: Site) =>
  rowProverOf(site).prove(rows, lineOf, text);

beforeAll(() => {
  const db = openStore(":memory:");
  loadDemo(db, { products: 1500 });
  engine = new Workspace(db);
});

describe("rows proved in the browser", () => {
  it.each((["post", "product", "category"] as const).flatMap((kind) => TEXTS.map((text) => [kind, text] as const)))(
    "of %s %ss are what the server's proof of the whole set says",
    (kind, text) => {
      const base = Object.fromEntries(Object.entries(DEMO_LINES[kind]!).filter(([, line]) => line !== ""));
      const design = { base, rules: [...(DEMO_RULES[kind] ?? [])] };
      const { proof } = engine.textProof(kind, text, design);
      const lineOf = (owner: string) => {
        const source = linesOf(design, owner)[text];
        return source === undefined ? null : parseLine(source);
      };
      for (const sort of ["widest", "shortest", "site"] as const) {
        const { rows } = new BenchDesk(engine).rows(kind, design, {
          text,
          scope: "all",
          sort,
          filter: "all",
          search: "",
          from: 0,
          count: 80,
        });
        expect(rows.length).toBe(80);
        const inBrowser = proveRows(rows, lineOf, text, DEMO_SITE);
        for (const [i, local] of inBrowser.entries()) {
          const { row: at, drawn } = rows[i]!;
          expect(local.text).toBe(proof.textOf(at));
          expect(local.size).toBeCloseTo(proof.sizes[at]!, 1);
          expect(local.fits).toBe(proof.fits[at] === 1);
          expect(local.from === "hand").toBe(proof.from[at] === 3);
          expect(local.keyword?.form ?? null).toBe(proof.form[at] === 0 ? null : FORMS[proof.form[at]! - 1]);
          if (local.keyword?.char) expect(local.keyword.seen).toBe(proof.keywordSeen[at] === 1);
          // What is drawn before the browser can prove anything is what it proves.
          expect(drawn).toEqual({ of: text, ...local, why: undefined });
        }
      }
    },
  );

  it("read figures as the kind's columns write them, and clean no value twice, as the server does", () => {
    const own = openStore(":memory:");
    loadDemo(own, { products: 60 });
    own.prepare("UPDATE items SET price = '1.011', name = 'The &lt;title&gt; tag' WHERE kind = 'product'").run();
    const site = { ...DEMO_SITE, formats: { product: { price: { number: "comma" as const } } } };
    writeSite(own, site);
    const source = "{name} {price:money(GBP)}";
    const workspace = new Workspace(own);
    const design = { base: { title: source }, rules: [] };
    const query = { text: "title", scope: "all", sort: "site", filter: "all", search: "", from: 0, count: 5 } as const;
    const { rows } = new BenchDesk(workspace).rows("product", design, query);
    const { proof } = workspace.textProof("product", "title", design);
    const inBrowser = proveRows(rows, () => parseLine(source), "title", site);
    const made = rows.flatMap((row, i) => (inBrowser[i]!.from === "hand" ? [] : [{ row, text: inBrowser[i]!.text }]));
    expect(made.length).toBeGreaterThan(0);
    for (const { row, text } of made) {
      expect(text).toBe(proof.textOf(row.row));
      expect(text).toBe(row.drawn.text);
      expect(text).toBe("The <title> tag £1,011.00");
    }
  });

  it("say why: what stands, what gave way, what is not needed", () => {
    const row = {
      kind: "product" as const,
      id: 1,
      row: 0,
      path: "/a/b",
      folder: "/a/",
      stays: false,
      address: null,
      fields: {
        name: "Bronze bow roller with captive pin for boats up to fourteen metres",
        finish: "polished",
        category: "Bow rollers",
      },
      live: { title: "", description: "", slug: "b" },
      hand: {},
      apart: { title: 0, description: 0, slug: 0 },
      by: { title: "base", description: null, slug: null },
      same: 1,
    };
    const [proved] = proveRows(
      [row],
      () => parseLine("{name}[ in {finish}]^2[ – {category}]^1[ {colour}][ {id}]^apart"),
      "title",
      DEMO_SITE,
    );
    expect(proved!.why).toEqual([
      { type: "says", text: row.fields.name },
      { type: "left", piece: "[ in {finish}]^2", why: "room" },
      { type: "left", piece: "[ – {category}]^1", why: "room" },
      { type: "left", piece: "[ {colour}]", why: "incomplete" },
      { type: "left", piece: "[ {id}]^apart", why: "not needed" },
    ]);
    expect(
      proveRows([{ ...row, hand: { title: "Mine" } }], () => parseLine("{name}"), "title", DEMO_SITE)[0],
    ).toMatchObject({ text: "Mine", from: "hand", why: [] });
    expect(
      proveRows([{ ...row, live: { ...row.live, title: "Live" } }], () => parseLine("{nme"), "title", DEMO_SITE)[0],
    ).toMatchObject({ text: "Live", from: "live" });
  });

  it("are of the settings as they are, though lines, rows and fields are those of before", () => {
    const line = parseLine("{name} {sep} {keyword}");
    const row = {
      kind: "product",
      fields: { name: "Bow roller", keyword: "rollers" },
      live: { title: "", description: "", slug: "" },
      hand: {},
      apart: { title: 0, description: 0, slug: 0 },
      by: { title: "base", description: null, slug: null },
      stays: false,
    };
    const rows = [row];
    const under = (site: Site) => proveRows(rows, () => line, "title", site)[0]!;
    const site = { ...DEMO_SITE, sep: "–" };
    expect(under(site).text).toBe("Bow roller – rollers");
    expect(under({ ...site, sep: "|" }).text).toBe("Bow roller | rollers");
    expect(under(site).text).toBe("Bow roller – rollers");
  });

  it("draw a keyword where it stands, and none where there is none", () => {
    expect(drawnKeyword(DEMO_SITE, "bow roller", "Bronze bow rollers", null, true)).toMatchObject({
      start: 7,
      width: 11,
      form: "variant",
    });
    expect(drawnKeyword(DEMO_SITE, "", "Bronze", null, true)).toBeNull();
  });
});
