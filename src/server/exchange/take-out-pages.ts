import { FINDINGS } from "../../core/checks/findings";
import { PAGE_EXTRA_NAMES, PAGE_EXTRAS, type PageExtra, TEXTS } from "../../core/design/kinds";
import { type ItemQuery } from "../../core/items/query";
import { fieldOfColumn, type OutColumn, type OutFileFormat, type OutShape } from "../../core/items/taken-out";
import { Refusal } from "../../core/refusal";
import { rawCsvLine } from "../../formats/csv-write";
import { xlsxChunks } from "../../formats/xlsx-write";
import { type PageOut, type PagesOut } from "./methods";
import { csvRecord, MADE_HARMLESS } from "./csv-record";

/** What is taken out of the pages, and how. */
export interface PagesOutAsked {
  readonly shape: OutShape;
  readonly format: OutFileFormat;
  /** Which pages, in which order. */
  readonly query: ItemQuery;
  /** Of a row a page: only pages of which a text differs that has a column. A row a change is always one. */
  readonly onlyDiffering: boolean;
  /** Addresses with the site's own before them. */
  readonly fullAddresses: boolean;
  /** CSV cells as they are, for a program that reads them, not a spreadsheet. */
  readonly exact: boolean;
  /** The columns in their order, each under the name that the file has for it. */
  readonly columns: readonly { readonly column: OutColumn; readonly name: string }[];
}

type Row = Readonly<Record<string, string>>;

/** Pages asked for at once. */
const STEP = 500;

/**
 * The rows of pages that are taken out, by the names of their columns.
 *
 * @throws {Refusal} where the pages or the drafts are changed meanwhile: a file is of one moment.
 */
export async function* pageRecords(
  asked: PagesOutAsked,
  baseUrl: string,
  pagesOf: (from: number, count: number) => Promise<PagesOut>,
): AsyncGenerator<Row> {
  const rowsOf = asked.shape === "wide" ? wideRows(asked) : longRows;
  const prefix = asked.fullAddresses ? baseUrl.replace(/\/+$/, "") : "";
  let first: string | null = null;
  for (let from = 0; ; from += STEP) {
    const { pages, stamp } = await pagesOf(from, STEP);
    first ??= stamp;
    if (stamp !== first)
      throw new Refusal("conflict", "Pages or drafts changed while the file was written; export it again");
    for (const page of pages)
      for (const row of rowsOf(page, `${prefix}${page.path}`))
        yield Object.fromEntries(asked.columns.map(({ column, name }) => [name, row[column] ?? ""]));
    if (pages.length < STEP) return;
  }
}

/** The file, piece by piece. */
export async function* pagesFile(
  asked: PagesOutAsked,
  records: AsyncGenerator<Row>,
): AsyncGenerator<string | Uint8Array> {
  const header = asked.columns.map(({ name }) => name);
  if (asked.format === "xlsx") yield* xlsxChunks("Pages", cellsOf(header, records));
  else if (asked.format === "jsonl") for await (const record of records) yield `${JSON.stringify(record)}\n`;
  else if (asked.exact) {
    yield rawCsvLine(header);
    for await (const record of records) yield rawCsvLine(header.map((name) => record[name]!));
  } else {
    yield `\ufeff${rawCsvLine([...header, MADE_HARMLESS])}`;
    for await (const record of records) yield csvRecord(header, record);
  }
}

async function* cellsOf(header: readonly string[], records: AsyncGenerator<Row>): AsyncGenerator<readonly string[]> {
  yield header;
  for await (const record of records) yield header.map((name) => record[name]!);
}

/** What a text is after the drafts: nothing is ever replaced by nothing. */
const after = ({ live, draft }: Pair) => (draft === "" ? live : draft);

function commonCells({ fields, kind, name, keyword, category }: PageOut, address: string): Row {
  return { id: fields["id"] ?? "", kind, address, name, category, keyword };
}

/** A text of a page before and after. */
interface Pair {
  readonly live: string;
  readonly draft: string;
}

/** The robots setting as the site has it; empty means the same as one that says nothing, and stays empty. */
function robotsPair({ fields, robots }: PageOut): Pair {
  const live = fields["robots"] ?? "";
  return { live, draft: robots.draft === robots.live ? live : robots.draft };
}

function extraPair({ extras, saidExtras }: PageOut, extra: PageExtra): Pair {
  return extras.find(({ text }) => text === extra) ?? { live: saidExtras[extra], draft: "" };
}

const wideRows =
  ({ columns, onlyDiffering }: PagesOutAsked) =>
  (page: PageOut, address: string): Row[] => {
    const wanted = new Set<string>(columns.map(({ column }) => column));
    const pairs = [
      ...TEXTS.map((text) => [text, page.texts[text]] as const),
      ["robots", robotsPair(page)] as const,
      ...PAGE_EXTRA_NAMES.map((extra) => [PAGE_EXTRAS[extra], extraPair(page, extra)] as const),
    ] satisfies (readonly [string, Pair])[];
    const differs = pairs.some(
      ([text, pair]) => (wanted.has(text) || wanted.has(`${text}_before`)) && after(pair) !== pair.live,
    );
    if (onlyDiffering && !differs) return [];
    const cells = pairs.flatMap(([text, pair]) => [
      [`${text}_before`, pair.live],
      [text, after(pair)],
    ]);
    return [
      {
        ...commonCells(page, address),
        ...(Object.fromEntries(cells) as Row),
        findings_before: findingWords(page.findings.live),
        findings: findingWords(page.findings.draft),
        ...fieldCells(columns, page),
      },
    ];
  };

/** @example "title: too wide; slug: stop words" */
function findingWords(found: PageOut["findings"]["live"]): string {
  return found
    .map(({ subject, id }) => `${subject}: ${FINDINGS[subject].find((own) => own.id === id)!.label.toLowerCase()}`)
    .join("; ");
}

function fieldCells(columns: PagesOutAsked["columns"], { fields }: PageOut): Row {
  return Object.fromEntries(
    columns.flatMap(({ column }) => {
      const field = fieldOfColumn(column);
      return field === null ? [] : [[column, fields[field] ?? ""]];
    }),
  );
}

function longRows(page: PageOut, address: string): Row[] {
  const units = [
    ...TEXTS.map((text) => ({ ...page.texts[text], text: text as string, image: "" })),
    { ...robotsPair(page), text: "robots", image: "" },
    ...page.extras,
  ];
  return units
    .filter((unit) => after(unit) !== unit.live)
    .map((unit) => ({
      ...commonCells(page, address),
      text: unit.text,
      image_address: unit.image,
      before: unit.live,
      after: after(unit),
    }));
}
