import { createReadStream, createWriteStream } from "node:fs";
import { once as onceEmitted } from "node:events";
import { join } from "node:path";
import { parse } from "csv-parse";
import { type Figure, once } from "./measure";
import { inOwnProcess } from "./own-process";

const WORDS = "amber brass cord ember flint grove hinge ivory knot lathe moss nettle oak pine quill rope slate".split(
  " ",
);
/** Of so many titles and descriptions one was written by hand; the others a template made. */
const BY_HAND = 10;

/** A row of a list as another program writes it: its own columns and words, most texts by a template. */
function rowOf(n: number): string {
  // A plain generator of numbers (Lehmer, 1951): the same file each time.
  let state = n + 1;
  const word = () => WORDS[(state = (state * 48271) % 2147483647) % WORDS.length]!;
  const words = (count: number) => Array.from({ length: count }, word).join(" ");
  const name = `${word()}-${word()}-${n}`;
  const summary = `${words(10)}. ${words(8)}.`;
  const title = n % BY_HAND === 0 ? words(6) : `${name} | ${word()} lists`;
  const description = n % BY_HAND === 0 ? words(18) : summary;
  return `${n},/lists/${name},${name},${n % 9}.${n % 20},${word()},"${word()} ${word()}, team",${state % 90_000},${summary},${title},${description},2026-03-1${n % 9}\n`;
}

async function writeForeignFile(file: string, rows: number): Promise<void> {
  const out = createWriteStream(file);
  out.write("id,url,name,version,section,maintainer,size,summary,title,description,updated\n");
  for (let n = 1; n <= rows; n++) if (!out.write(rowOf(n))) await onceEmitted(out, "drain");
  out.end();
  await onceEmitted(out, "finish");
}

/** A large file of another program, brought into an empty site, beside what a library takes to part it into cells. */
export async function foreignFileFigure(folder: string, rows: number): Promise<Figure> {
  const file = join(folder, "foreign.csv");
  await writeForeignFile(file, rows);
  const parsed = await once(async () => {
    for await (const _row of createReadStream(file).pipe(parse())) continue;
  });
  const { ms } = inOwnProcess("bring-in", file);
  return {
    name: `bring in ${rows.toLocaleString("en")} rows of a foreign file`,
    ms,
    baseline: "csv-parse alone",
    baselineMs: parsed,
    bound: "at most 2.5 ×",
    holds: ms <= 2.5 * parsed,
  };
}
