import { type Command, Option } from "commander";
import { compactRedirects } from "../core/addresses/compact-redirects";
import { foldRedirects, type RedirectReport } from "../core/addresses/fold-redirects";
import { normalAddress } from "../core/addresses/path-form";
import { REDIRECT_FORMS, type RedirectForm } from "../core/addresses/redirect-forms";
import { hopCount, RedirectLookup } from "../core/addresses/redirect-lookup";
import { parseShape } from "../core/addresses/parse-shape";
import { AddressMaker } from "../core/addresses/shape";
import { linksOf } from "../core/links/body-links";
import { type ItemRecord, itemSetOf } from "../core/proof/items";
import { SLUG_DEFAULTS } from "../core/slugs/options";
import { languageByTag } from "../core/text/language";
import { LANGUAGES } from "../core/text/languages";
import { FileError } from "../formats/lines-file";
import { type RedirectFile, readRedirects } from "../formats/redirects-read";
import { writeRedirects } from "../formats/redirects-write";
import { itemRecords, textLines, textPieces } from "./input";

interface Output {
  readonly write: (value: unknown) => Promise<void>;
  readonly FAULTY: number;
  readonly WRONG_USE: number;
}

/** The commands of addresses, redirects and links. */
export function addAddressCommands(program: Command, output: Output): void {
  addRedirects(program, output);
  addResolve(program, output);
  addPaths(program, output);
  addLinks(program, output);
}

const say = (text: string) => process.stderr.write(`${text}\n`);

/** What a report says on standard error: one line. */
function reportLine(report: RedirectReport): string {
  switch (report.what) {
    case "loop": {
      const ring = [...report.ring, report.ring[0]].join(" → ");
      return `loop: ${ring}${report.leadingIn.length > 0 ? `; ${report.leadingIn.join(", ")} led into it` : ""}; left out`;
    }
    case "dead end":
      return `dead end: ${report.from} leads to ${report.to}, where no page is; kept`;
    case "collision":
      return `collision: a page is at ${report.from}; its redirect to ${report.to || "410"} is left out`;
    case "double":
      return `double: ${report.from} leads to ${report.to || "410"} and earlier to ${report.earlier || "410"}; the later one holds`;
  }
}

function sayRefused(file: string, { refused }: RedirectFile): void {
  for (const { line, content, reason } of refused) say(`${file}:${line}: ${reason} (${content.slice(0, 200)})`);
}

async function livePaths(file: string | undefined): Promise<Set<string> | null> {
  if (file === undefined) return null;
  const paths = new Set<string>();
  let number = 0;
  for await (const line of textLines([file])) {
    number++;
    const text = line.trim();
    if (text === "") continue;
    const path = /^https?:\/\/[^/?#]*/i.test(text) ? text.replace(/^https?:\/\/[^/?#]*/i, "") || "/" : text;
    if (!path.startsWith("/"))
      throw new FileError(file, `“${text}” is no path; one begins with a slash`, { line: number, column: 1 });
    paths.add(normalAddress(path));
  }
  return paths;
}

function addRedirects(program: Command, { FAULTY, WRONG_USE }: Output): void {
  program
    .command("redirects")
    .description("Redirects folded so that each leads in one hop; what is amiss is said on standard error")
    .argument("[file]", "pairs as CSV with a header (from,to,status), plain lines or JSON Lines", "-")
    .option("--pages <file>", "the paths at which pages are, one a line")
    .option("--compact", "in as few rules as send every known path to the same place", false)
    .addOption(new Option("--as <form>", "how they are written").choices(REDIRECT_FORMS).default("jsonl"))
    .option("--strict", "ends with 1 when there is a loop, a dead end, a collision or a double", false)
    .action(async (file: string, flags: { pages?: string; compact: boolean; as: RedirectForm; strict: boolean }) => {
      const pages = await livePaths(flags.pages);
      const read = await readRedirects(textPieces(file));
      sayRefused(file, read);
      const folded = foldRedirects(
        read.redirects.map(({ redirect }) => redirect),
        pages,
      );
      for (const report of folded.reports) say(reportLine(report));
      const compact = flags.compact ? compactRedirects(folded.redirects, pages) : null;
      const redirects = compact?.redirects ?? folded.redirects;
      if (compact)
        say(
          `${folded.redirects.length.toLocaleString("en")} redirects in ${redirects.length.toLocaleString("en")} rules, ${compact.proven.toLocaleString("en")} known paths checked`,
        );
      const lookup = new RedirectLookup(redirects.filter(({ prefix }) => prefix));
      const keeps = [...(pages ?? [])].filter((page) => lookup.hop(page) !== null).sort();
      for (const piece of writeRedirects(flags.as, { redirects, keeps }))
        if (!process.stdout.write(piece)) await new Promise((resolve) => process.stdout.once("drain", resolve));
      if (read.refused.length > 0) process.exitCode = WRONG_USE;
      else if (flags.strict && folded.reports.length > 0) process.exitCode = FAULTY;
    });
}

function addResolve(program: Command, { write, WRONG_USE }: Output): void {
  program
    .command("resolve")
    .description("Where paths lead, one a line")
    .argument("[files...]", "files of paths; standard input without any")
    .requiredOption("--redirects <file>", "the redirects, in any form that “redirects” reads")
    .option("--pages <file>", "the paths at which pages are, one a line")
    .action(async (files: string[], flags: { redirects: string; pages?: string }) => {
      const read = await readRedirects(textPieces(flags.redirects));
      sayRefused(flags.redirects, read);
      if (read.refused.length > 0) process.exitCode = WRONG_USE;
      const lookup = new RedirectLookup(
        read.redirects.map(({ redirect }) => redirect),
        await livePaths(flags.pages),
      );
      for await (const line of textLines(files)) {
        const path = line.trim();
        if (path === "") continue;
        if (!path.startsWith("/")) throw new FileError("paths", `“${path}” is no path; one begins with a slash`);
        const answer = lookup.resolve(normalAddress(path));
        await write({ path, to: answer.to, status: answer.status, hops: hopCount(answer), by: answer.by });
      }
    });
}

const languageOption = () =>
  new Option("--language <tag>", "whose letters the slugs of folders go by")
    .choices(LANGUAGES.map(({ tag }) => tag))
    .default("en");

function addPaths(program: Command, { write }: Output): void {
  program
    .command("paths")
    .description("The addresses that a shape puts together")
    .requiredOption("--shape <shape>", "a line whose slashes divide segments, such as /{category.path}/{slug}")
    .requiredOption("--items <file>", "items as JSON Lines or CSV with a header; - for standard input")
    .addOption(languageOption())
    .action(async (flags: { shape: string; items: string; language: string }) => {
      const records: ItemRecord[] = [];
      for await (const record of itemRecords(flags.items)) records.push(record);
      const shape = parseShape(flags.shape);
      const wrong = shape.line.errors[0];
      if (wrong) throw new FileError("--shape", `character ${wrong.from + 1} of the shape: ${wrong.message}`);
      const items = itemSetOf(records);
      const slugRules = { options: SLUG_DEFAULTS, language: languageByTag(flags.language) };
      const maker = new AddressMaker(shape, items, { slugRules, folderPages: null });
      for (const [row, record] of records.entries()) {
        const id = record["id"] ?? null;
        await write({ id, path: maker.address(row, items.value("slug", row)) });
      }
    });
}

function addLinks(program: Command, { write }: Output): void {
  program
    .command("links")
    .description("The links of a page that lead inside its site")
    .argument("[file]", "HTML; standard input without any", "-")
    .requiredOption("--base <url>", "the whole address of the page")
    .action(async (file: string, { base }: { base: string }) => {
      if (!URL.canParse(base) || !/^https?:$/.test(new URL(base).protocol))
        throw new FileError("--base", `“${base}” is no address; one is such as https://fennickdray.example/notes`);
      let html = "";
      for await (const piece of textPieces(file)) html += piece;
      for (const { href, path, text, rel } of linksOf(html, base)) await write({ href, path, text, rel });
    });
}
