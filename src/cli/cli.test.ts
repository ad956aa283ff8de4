import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readCases } from "../test/cases";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-cli-"));
const run = (args: string[], input = "") => {
  const { stdout, stderr, status } = spawnSync("bin/nine-lines", args, {
    input,
    encoding: "utf8",
    maxBuffer: 64 * 1024 * 1024,
  });
  return {
    rows: stdout
      .split("\n")
      .filter(Boolean)
      .map((line) => JSON.parse(line) as Record<string, unknown>),
    stderr,
    status,
  };
};
const file = (name: string, content: unknown) => {
  const path = join(folder, name);
  writeFileSync(path, typeof content === "string" ? content : JSON.stringify(content));
  return path;
};

describe("the command line", () => {
  it("measures the contract's texts", () => {
    const cases = readCases<{ text: string; arimo400_20px: number; arimo20_shown_in_600: string }>("widths.jsonl");
    const { rows } = run(["measure", "--surface", "desktop-title"], cases.map((c) => c.text).join("\n"));
    expect(rows).toHaveLength(cases.length);
    rows.forEach((row, i) => {
      expect(Math.abs((row["px"] as number) - cases[i]!.arimo400_20px)).toBeLessThanOrEqual(0.05);
      expect(row["shown"]).toBe(cases[i]!.arimo20_shown_in_600);
    });
    const wrapped = run(["measure", "--surface", "phone-title"], "Three-strand mooring cleat 10 % off / starboard")
      .rows[0]!;
    expect(wrapped).toMatchObject({ fits: true, lines: ["Three-strand mooring cleat 10 % off", "/ starboard"] });
    expect(run(["measure", "--surface", "tab", "--width", "50"], "Mooring cleat").rows[0]).toMatchObject({
      fits: false,
      shown: "…",
    });
  });

  it("places the contract's keywords", () => {
    for (const { keyword, text, ...expected } of readCases<Record<string, string>>(
      "place.jsonl",
      "sharper-place.jsonl",
    ))
      expect(run(["place", "--keyword", keyword!], text).rows[0]).toMatchObject(expected);
  });

  it("makes the contract's slugs", () => {
    for (const c of readCases<{
      text: string;
      slug: string;
      dropStopWords?: boolean;
      dropNumbers?: boolean;
      keepUnicode?: boolean;
      max?: number;
    }>("slugs.jsonl", "sharper-slugs.jsonl")) {
      const flags = [
        ...(c.dropStopWords ? ["--drop-stop-words"] : []),
        ...(c.dropNumbers ? ["--drop-numbers"] : []),
        ...(c.keepUnicode ? ["--keep-unicode"] : []),
        ...(c.max ? ["--max", String(c.max)] : []),
      ];
      expect(run(["slug", ...flags], c.text).rows[0]!["slug"]).toBe(c.slug);
    }
  });

  it("renders the contract's lines", () => {
    const cases = readCases<{
      line: string;
      item?: object;
      items?: object[];
      max?: number;
      out?: string | string[];
      fits?: boolean;
      empty?: string[];
      error?: { at: number; near?: string };
    }>("lines.jsonl", "sharper-lines.jsonl");
    for (const [i, c] of cases.entries()) {
      const lines = file(`${i}.lines.json`, {
        format: "nine-lines/1",
        site: { limits: { title: { surfaces: [], chars: c.max ?? null } } },
        kinds: { product: { base: { title: c.line } } },
      });
      const items = file(
        `${i}.jsonl`,
        (c.items ?? [c.item ?? { name: "x" }]).map((item) => JSON.stringify(item)).join("\n"),
      );
      const { rows, stderr, status } = run(["render", "--lines", lines, "--items", items, "--kind", "product"]);
      if (c.error) {
        expect(status, c.line).toBe(2);
        expect(stderr).toContain(`character ${c.error.at + 1} `);
        if (c.error.near) expect(stderr).toContain(`“${c.error.near}”`);
        continue;
      }
      expect(
        rows.map((row) => (row["title"] as { text: string }).text),
        c.line,
      ).toEqual([c.out].flat());
      if (c.fits !== undefined) expect(rows[0]!["title"]).toMatchObject({ fits: c.fits });
      if (c.empty) expect(rows[0]!["title"]).toMatchObject({ empty: c.empty });
    }
  });

  it("lets the first matching rule decide, names it, and keeps both limits", () => {
    const when = { all: [{ field: "material", "is one of": ["brass", "bronze"] }] };
    const lines = file("rules.lines.json", {
      format: "nine-lines/1",
      site: { sep: "–", limits: { title: { surfaces: ["desktop-title", "phone-title"], chars: 20 } } },
      kinds: {
        product: {
          base: { title: "{name}[ {sep} {category}]" },
          rules: [{ name: "Brass", when, title: "{name}[ in {finish}]^2[ – {category}]^1" }],
        },
      },
    });
    const items = file(
      "rules.jsonl",
      '{"id":1,"name":"Cleat","material":"Brass","finish":"matt","category":"Deck fittings"}\n{"id":2,"name":"Rope","material":"hemp","category":"Twine"}\n',
    );
    const { rows } = run(["render", "--lines", lines, "--items", items, "--kind", "product"]);
    expect(rows[0]).toMatchObject({
      id: 1,
      title: {
        text: "Cleat in matt",
        rule: "Brass",
        from: "rule",
        left: [{ piece: "[ – {category}]^1", why: "room" }],
      },
    });
    expect(rows[1]).toMatchObject({ id: 2, title: { text: "Rope – Twine", rule: null, from: "base", fits: true } });
    const wrong = file("wrong.lines.json", {
      format: "nine-lines/1",
      kinds: { product: { rules: [{ name: "x", when: { field: "a", like: "b" } }] } },
    });
    expect(run(["render", "--lines", wrong, "--items", items, "--kind", "product"])).toMatchObject({
      status: 2,
      stderr: expect.stringContaining("there is no operator “like”"),
    });
  });

  it("cuts a slug that is too long even without its pieces, and it fits then", () => {
    const lines = file("slug.lines.json", {
      format: "nine-lines/1",
      site: { slug: { max: 20 } },
      kinds: { product: { base: { slug: "{name}[-{finish}]" } } },
    });
    const { rows, status } = run([
      "render",
      "--lines",
      lines,
      "--items",
      file("slug.jsonl", '{"id":1,"name":"Bronze mooring cleat with fixings","finish":"matt"}'),
      "--kind",
      "product",
      "--strict",
    ]);
    expect(rows[0]).toMatchObject({
      slug: { text: "bronze-mooring-cleat", fits: true, left: [{ piece: "[-{finish}]", why: "room" }] },
    });
    expect(status).toBe(0);
  });

  it("tells wrong use and bad input by status 2, with file, line and column", () => {
    expect(run(["measure", "--surface", "nowhere"]).status).toBe(2);
    expect(run(["render"]).status).toBe(2);
    const lines = file("good.lines.json", { format: "nine-lines/1", kinds: { post: { base: { title: "{name}" } } } });
    expect(run(["render", "--lines", lines, "--items", join(folder, "none"), "--kind", "post"])).toMatchObject({
      status: 2,
      stderr: expect.stringContaining("there is no such file"),
    });
    expect(
      run(["render", "--lines", lines, "--items", file("bad.jsonl", '{"id":1}\n{"id":'), "--kind", "post"]).stderr,
    ).toMatch(/bad\.jsonl:2:\d+:/);
    expect(
      run([
        "render",
        "--lines",
        file("bad.lines.json", '{\n "format": "nine-lines/1",,\n}'),
        "--items",
        lines,
        "--kind",
        "post",
      ]).stderr,
    ).toMatch(/bad\.lines\.json:2:\d+:/);
    expect(run(["render", "--lines", lines, "--items", lines, "--kind", "product"]).stderr).toMatch(
      /no lines for the kind/,
    );
  });

  it("ends with 1 under --strict when anything is amiss, and reads CSV", () => {
    const lines = file("strict.lines.json", {
      format: "nine-lines/1",
      kinds: { product: { base: { title: "{name}[ in {colour}]^apart" } } },
    });
    const args = (items: string) => ["render", "--lines", lines, "--items", items, "--kind", "product", "--strict"];
    expect(run(args(file("a.csv", "id;name;Colour\n1;Rope;red\n2;Rope;blue\n")))).toMatchObject({
      status: 0,
      rows: [
        { id: "1", title: { text: "Rope in red" } },
        { id: "2", title: { text: "Rope in blue" } },
      ],
    });
    expect(run(args(file("b.csv", "id,name,Colour\n1,Rope,red\n2,Rope,red\n"))).status).toBe(1);
    expect(run(args(file("c.csv", "id,name\n1,\n"))).status).toBe(1);
  });
});
