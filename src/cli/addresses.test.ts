import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { readCases } from "../test/cases";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-addresses-"));
const file = (name: string, content: string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const run = (args: string[], input = "") => {
  const { stdout, stderr, status } = spawnSync("bin/nine-lines", args, { input, encoding: "utf8" });
  return { stdout, stderr, status };
};
const rowsOf = (stdout: string) =>
  stdout
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);

describe("nine-lines redirects", () => {
  it("folds the contract’s pairs, of CSV and of JSON Lines, and says what is amiss", () => {
    const cases = readCases<{
      pairs: [string, string, number?][];
      out: [string, string, number][];
      report: string[];
      pages: string[];
    }>("redirects.jsonl");
    for (const [i, { pairs, out, report, pages }] of cases.entries()) {
      const live = file(`${i}.pages`, pages.join("\n"));
      const csv = `from,to,status\n${pairs.map(([from, to, status]) => `${from},${to},${status ?? ""}`).join("\n")}`;
      const lines = pairs.map(([from, to, status]) => JSON.stringify({ from, to, status })).join("\n");
      for (const input of i % 2 ? [csv] : [lines]) {
        const { stdout, stderr, status } = run(["redirects", "--pages", live, "--strict"], input);
        expect(rowsOf(stdout).map(({ from, to, status: own }) => [from, to, own])).toEqual(out);
        expect(
          stderr
            .split("\n")
            .filter(Boolean)
            .map((line) => line.split(":")[0]),
        ).toEqual(report);
        expect(status).toBe(report.length > 0 ? 1 : 0);
      }
    }
  });

  it("takes columns in any order and naming, with hosts, and refuses what is none with its line", () => {
    const table = "Neu;Status;Alt\nhttps://x.example/b;302;https://x.example/a\n/c;;kein pfad\n/d;;/e\n";
    const { stdout, stderr, status } = run(["redirects"], table);
    expect(rowsOf(stdout)).toEqual([
      { from: "/a", to: "/b", status: 302, prefix: false },
      { from: "/e", to: "/d", status: 301, prefix: false },
    ]);
    expect(stderr).toMatch(/^-:3: “kein pfad” is no path/);
    expect(status).toBe(2);
  });

  it("gives in a pipe with resolve what the full set gives when it is compact, in every form that is read again", () => {
    const names = Array.from({ length: 60 }, (_, i) => `cleat-${i}`);
    const pairs = names.map((name, i) => `/deck/${name},/${i % 20 ? "fittings" : "odd"}/${name},${i % 7 ? 301 : 302}`);
    const given = `from,to,status\n${pairs.join("\n")}\n/old/*,/deck/*,301\n/gone,,410\n`;
    const live = file("pipe.pages", names.map((name, i) => `/${i % 20 ? "fittings" : "odd"}/${name}`).join("\n"));
    const asked = [...names.flatMap((name) => [`/deck/${name}`, `/old/${name}?x=1`]), "/gone", "/none"].join("\n");
    const answers = (...flags: string[]) => {
      const set = run(["redirects", "--pages", live, ...flags], given);
      expect(set.status).toBe(0);
      return run(["resolve", "--redirects", file("set", set.stdout), "--pages", live], asked).stdout;
    };
    const full = answers();
    expect(rowsOf(full)).toHaveLength(122);
    expect(rowsOf(full)[0]).toEqual({ path: "/deck/cleat-0", to: "/odd/cleat-0", status: 302, hops: 1, by: "exact" });
    const withoutBy = (text: string) => rowsOf(text).map(({ by: _, ...row }) => row);
    for (const flags of [["--compact"], ["--compact", "--as", "csv"], ["--as", "plain"]])
      expect(withoutBy(answers(...flags)), flags.join(" ")).toEqual(withoutBy(full));
  });
});

it("resolves the contract’s paths", () => {
  for (const { rules, pages, ask } of readCases<{
    rules: [string, string, number, boolean?][];
    pages: string[];
    ask: [string, string, number, number, string | null][];
  }>("resolve.jsonl")) {
    const set = rules.map(([from, to, status, prefix]) =>
      JSON.stringify({ from, to, status, prefix: prefix ?? false }),
    );
    const args = ["resolve", "--redirects", file("rules", set.join("\n")), "--pages", file("pages", pages.join("\n"))];
    const { stdout } = run(args, ask.map(([path]) => path).join("\n"));
    expect(rowsOf(stdout)).toEqual(
      ask.map(([path, to, status, hops, by]) => ({ path, to: to || null, status, hops, by })),
    );
  }
});

it("puts the contract’s addresses together, and says where a shape is wrong", () => {
  for (const { shape, item, path } of readCases<{ shape: string; item: object; path: string }>("paths.jsonl")) {
    const { stdout } = run(["paths", "--shape", shape, "--items", "-"], JSON.stringify({ id: 7, ...item }));
    const id = "id" in item ? item.id : 7;
    expect(rowsOf(stdout)).toEqual([{ id, path }]);
  }
  expect(run(["paths", "--shape", "/{slug}/x", "--items", "-"], "{}")).toMatchObject({
    status: 2,
    stderr: expect.stringContaining("character 8 of the shape: {slug} stands in the last segment"),
  });
});

it("lists the contract’s links", () => {
  for (const { base, html, out } of readCases<{ base: string; html: string; out: unknown[][] }>("links.jsonl"))
    expect(rowsOf(run(["links", "--base", base], html).stdout).map(({ path, text, rel }) => [path, text, rel])).toEqual(
      out,
    );
  expect(run(["links", "--base", "nowhere"], "").status).toBe(2);
});

describe("docs/addresses.md", () => {
  const text = readFileSync("docs/addresses.md", "utf8");
  const blocks = (kind: string) =>
    [...text.matchAll(new RegExp(`\`\`\`${kind}\n([\\s\\S]*?)\`\`\``, "g"))].map(([, own]) => own!);

  it.each(blocks("shape"))("tells the address of %j", (block) => {
    const [shape, item, path] = block.split("\n");
    expect(rowsOf(run(["paths", "--shape", shape!, "--items", "-"], item).stdout)).toMatchObject([{ path }]);
  });

  it("shows redirects that can be read, and what the command line makes of some", () => {
    for (const block of blocks("redirects")) expect(run(["redirects"], block)).toMatchObject({ status: 0, stderr: "" });
    const consoles = blocks("console");
    expect(consoles.length).toBeGreaterThan(0);
    for (const block of consoles) {
      const [command, rest] = [block.slice(0, block.indexOf("\n")), block.slice(block.indexOf("\n") + 1)];
      const [input, output] = rest.split("=\n");
      expect(run(command.replace("$ nine-lines ", "").split(" "), input).stdout).toBe(output);
    }
  });
});
