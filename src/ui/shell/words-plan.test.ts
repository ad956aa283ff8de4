import { readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { textsOfCode } from "../../test/texts-of-code";
import { GLOSSARY } from "./glossary";

const root = path.resolve(import.meta.dirname, "../../..");
const words = readFileSync(path.join(root, "docs/words.md"), "utf8");

/** The rows of the table below a heading, cell by cell. */
function tableUnder(heading: string): string[][] {
  const section = words.split(`## ${heading}\n`)[1]!.split("\n## ")[0]!;
  const rows = section.split("\n").filter((line) => line.startsWith("|"));
  return rows.slice(2).map((row) =>
    row
      .slice(1, -1)
      .split("|")
      .map((cell) => cell.trim()),
  );
}

describe("the plan of the words", () => {
  it("is what the screens explain their terms with", () => {
    expect(tableUnder("Glossary")).toEqual(Object.entries(GLOSSARY));
  });

  const texts = ["ui", "app", "server", "store", "formats", "core"].flatMap((room) =>
    textsOfCode(path.join(root, "src", room)),
  );

  it.each(tableUnder("Say, and do not say"))("says “%s” and nowhere: %s", (_, not) => {
    const avoided = not!.split(", ").map((word) => word.replaceAll(" ", "\\s+"));
    const pattern = new RegExp(`\\b(${avoided.join("|")})\\b`, "i");
    const wrong = texts.filter(({ text }) => pattern.test(text));
    expect(wrong.map(({ file, line, text }) => `${path.relative(root, file)}:${line} ${text}`)).toEqual([]);
  });
});
