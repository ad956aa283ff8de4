import { SLUG_DEFAULTS } from "../core/slugs/options";
import { Command, CommanderError, InvalidArgumentError, Option } from "commander";
import { readFileSync } from "node:fs";
import { type Kind } from "../core/design/kinds";
import { placeKeyword, Vocabulary } from "../core/keywords/place";
import { advanceUnits, jointUnits, unitsToPx } from "../core/measure/advance";
import { isSeen, shownOnSurface } from "../core/measure/cut";
import { fontById } from "../core/measure/font";
import { type Surface, surfaceById, SURFACES } from "../core/measure/surface";
import { fitsSurface, wrapOnSurface } from "../core/measure/wrap";
import { slugOf } from "../core/slugs/slug";
import { languageByTag } from "../core/text/language";
import { LANGUAGES } from "../core/text/languages";
import { type ItemRecord } from "../core/proof/items";
import { FileError, lineErrorIn, readLinesFile } from "../formats/lines-file";
import { addAddressCommands } from "./address-commands";
import { itemRecords, reason, textLines } from "./input";
import { LineFault, render } from "./render";

const FAULTY = 1;
const WRONG_USE = 2;

/** Writes an object as a line; waits where the reader is slower. */
async function write(value: unknown): Promise<void> {
  if (!process.stdout.write(`${JSON.stringify(value)}\n`))
    await new Promise((resolve) => process.stdout.once("drain", resolve));
}

function positive(value: string): number {
  const number = Number(value);
  if (!Number.isFinite(number) || number <= 0) throw new InvalidArgumentError("It takes a number above 0.");
  return number;
}

function wholePositive(value: string): number {
  const number = positive(value);
  if (!Number.isInteger(number)) throw new InvalidArgumentError("It takes a whole number.");
  return number;
}

const surfaceOption = () =>
  new Option("--surface <id>", "where the text is seen").choices(SURFACES.map((surface) => surface.id));

interface SurfaceFlags {
  surface: string;
  width?: number;
  lines?: number;
  total?: number;
}

function withSurface(command: Command, surface: Option): Command {
  return command
    .addOption(surface)
    .option("--width <px>", "the surface's width instead of its default", positive)
    .option("--lines <n>", "how many lines it has instead of its default", wholePositive)
    .option("--total <px>", "the most the running text may take instead of its default", positive);
}

function chosenSurface(flags: SurfaceFlags): Surface {
  const surface = surfaceById(flags.surface)!;
  return {
    ...surface,
    width: flags.width ?? surface.width,
    lines: flags.lines ?? surface.lines,
    total: flags.total ?? surface.total,
  };
}

const rounded = (px: number) => Math.round(px * 100) / 100;

const program = new Command("nine-lines")
  .description(
    "Checks titles, descriptions and slugs with the core of Nine Lines. Reads standard input or files, writes one JSON object a line.",
  )
  .showHelpAfterError("(--help tells more)")
  .exitOverride();

withSurface(
  program
    .command("measure")
    .description("Width, wrapping and cut of texts, one a line")
    .argument("[files...]", "files of texts; standard input without any"),
  surfaceOption().makeOptionMandatory(),
).action(async (files: string[], flags: SurfaceFlags) => {
  const surface = chosenSurface(flags);
  const font = fontById(surface.font);
  for await (const text of textLines(files)) {
    await write({
      text,
      px: rounded(unitsToPx(font, advanceUnits(font, text), surface.size)),
      fits: fitsSurface(surface, text),
      lines: wrapOnSurface(surface, text),
      shown: shownOnSurface(surface, text),
    });
  }
});

withSurface(
  program
    .command("place")
    .description("Where a keyword stands in texts, one a line")
    .argument("[files...]", "files of texts; standard input without any")
    .requiredOption("--keyword <k>", "the keyword"),
  surfaceOption().default("desktop-title"),
)
  .addOption(
    new Option("--language <tag>", "the texts' language").choices(LANGUAGES.map(({ tag }) => tag)).default("en"),
  )
  .action(async (files: string[], flags: SurfaceFlags & { keyword: string; language: string }) => {
    const vocabulary = new Vocabulary(languageByTag(flags.language));
    const keyword = vocabulary.keyword(flags.keyword);
    if (!keyword) throw new FileError("--keyword", `“${flags.keyword}” holds no word`);
    const surface = chosenSurface(flags);
    const font = fontById(surface.font);
    for await (const text of textLines(files)) {
      const place = placeKeyword(vocabulary, keyword, text);
      const head = place.char === null ? "" : text.slice(0, place.char - 1);
      const px =
        place.char === null
          ? null
          : rounded(
              unitsToPx(font, advanceUnits(font, head) + jointUnits(font, head, text.slice(head.length)), surface.size),
            );
      await write({
        text,
        form: place.form,
        word: place.word,
        char: place.char,
        px,
        count: place.count,
        visible: place.end !== null && (fitsSurface(surface, text) || isSeen(surface, text, place.end)),
      });
    }
  });

program
  .command("slug")
  .description("Texts as slugs, one a line")
  .argument("[files...]", "files of texts; standard input without any")
  .option("--drop-stop-words", "leaves stop words out", false)
  .option("--drop-numbers", "leaves numbers out", false)
  .option("--keep-unicode", "keeps letters outside ASCII", false)
  .option("--max <n>", "the most characters", wholePositive, SLUG_DEFAULTS.max)
  .addOption(
    new Option("--language <tag>", "whose stop words and letters")
      .choices(LANGUAGES.map(({ tag }) => tag))
      .default("en"),
  )
  .action(
    async (
      files: string[],
      flags: { dropStopWords: boolean; dropNumbers: boolean; keepUnicode: boolean; max: number; language: string },
    ) => {
      const rules = { options: flags, language: languageByTag(flags.language) };
      for await (const text of textLines(files)) await write({ text, slug: slugOf(text, rules) });
    },
  );

program
  .command("render")
  .description("What the lines of a lines file make of items")
  .requiredOption("--lines <file>", "a lines file (*.lines.json)")
  .requiredOption("--items <file>", "items as JSON Lines or CSV with a header; - for standard input")
  .requiredOption("--kind <kind>", "which kind's lines: its id, such as product")
  .option("--strict", "ends with 1 when anything is too wide, duplicate, missing or has an empty field", false)
  .action(async (flags: { lines: string; items: string; kind: Kind; strict: boolean }) => {
    let text: string;
    try {
      text = readFileSync(flags.lines, "utf8");
    } catch (error) {
      throw new FileError(flags.lines, reason(error as NodeJS.ErrnoException));
    }
    const file = readLinesFile(flags.lines, text);
    if (!file.kinds[flags.kind])
      throw new FileError(
        flags.lines,
        `there are no lines for the kind “${flags.kind}”; there are some for ${Object.keys(file.kinds).join(", ") || "no kind"}`,
      );
    const records: ItemRecord[] = [];
    for await (const record of itemRecords(flags.items)) records.push(record);
    try {
      const { texts, faulty } = render(file, flags.kind, records, (message) => process.stderr.write(`${message}\n`));
      for (const rendered of texts) await write(rendered);
      if (flags.strict && faulty) process.exitCode = FAULTY;
    } catch (error) {
      throw error instanceof LineFault ? lineErrorIn(flags.lines, text, error.line) : error;
    }
  });

addAddressCommands(program, { write, FAULTY, WRONG_USE });

process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  // The reader of a pipe may have had enough.
  if (error.code === "EPIPE") process.exit(0);
  throw error;
});

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : WRONG_USE;
  else {
    process.stderr.write(
      `${error instanceof FileError ? error.message : error instanceof Error ? error.message : String(error)}\n`,
    );
    process.exitCode = WRONG_USE;
  }
}
