import { type OutFileFormat } from "../../core/items/taken-out";
import { Refusal } from "../../core/refusal";
import { csvLine } from "../../formats/csv-write";
import { MOST_CELL_CHARS, MOST_SHEET_ROWS, xlsxChunks } from "../../formats/xlsx-write";
import { csvRecord, MADE_HARMLESS } from "./csv-record";
import { writeHandCell } from "../../formats/hand-cell";
import { type Hands } from "../../core/design/hands";
import { type Kind } from "../../core/design/kinds";
import { type ExtraText } from "../extras/extra-desk";
import { handsReader } from "../../store/hands";
import { type ItemRow } from "../../store/items";
import { type Db } from "../../store/open";
import {
  type BodyOfRun,
  bodiesOfRun,
  changesAfter,
  type ChangeWithName,
  PAGES_WITH_BODIES_OF_RUN,
  type RedirectRow,
  redirectsAfter,
} from "../../store/runs";

export type OutFormat = Exclude<OutFileFormat, "xlsx">;

const PAGE = 500;

type Cell = string | number | null;

/** Something that can be taken out: how its rows are read, a page at a time by key, and what its columns are. */
interface Export<Row extends { readonly id: number }> {
  readonly rowsAfter: (db: Db, after: number, run: number | null) => readonly Row[];
  readonly columns: Readonly<Record<string, (row: Row) => Cell>>;
}

/** A page with what it has by hand. */
interface PageRow extends ItemRow {
  readonly hands: Hands;
}

const PAGES: Export<PageRow> = {
  rowsAfter: (db, after) => {
    const rows = db.prepare("SELECT * FROM items WHERE id > ? ORDER BY id LIMIT ?").all(after, PAGE) as ItemRow[];
    const handsOf = handsReader(db);
    return rows.map((row) => ({ ...row, hands: handsOf(row.id) }));
  },
  columns: {
    id: ({ key }) => key,
    kind: ({ kind }) => kind,
    address: ({ path }) => path,
    name: ({ name }) => name,
    category: ({ category }) => category,
    category_path: (row) => row.category_path,
    keyword: ({ keyword }) => keyword,
    title: ({ title }) => title,
    description: ({ description }) => description,
    slug: ({ slug }) => slug,
    by_hand: ({ hands }) => Object.keys(hands.texts).join(" "),
    // What the site does not have yet; what it has stands in its own column.
    hand_texts: ({ hands, ...row }) => writeHandCell(hands, row),
    summary: ({ summary }) => summary,
    intro: ({ intro }) => intro,
    author: ({ author }) => author,
    published: ({ published }) => published,
    updated: ({ updated }) => updated,
    price: ({ price }) => price,
    count: ({ count }) => count,
    robots: ({ robots }) => robots,
    meta_keywords: (row) => row.meta_keywords,
    canonical: ({ canonical }) => canonical,
    attributes: ({ attributes }) => attributes,
  },
};

const CHANGES: Export<ChangeWithName> = {
  rowsAfter: (db, after, run) => changesAfter(db, run!, after, PAGE),
  columns: {
    kind: ({ kind }) => kind,
    name: ({ name }) => name,
    text: ({ text }) => text,
    image: ({ text, part }) => (text === "body" ? null : part),
    image_address: ({ text, image }) => (text === "body" ? null : image),
    before: ({ before }) => before,
    after: ({ after }) => after,
    path_before: (row) => row.path_before,
    path_after: (row) => row.path_after,
    status: ({ status }) => status,
    reason: ({ reason }) => reason,
    link: ({ text, part }) => (text === "body" ? part : null),
    link_text: ({ text, image }) => (text === "body" ? image : null),
  },
};

const BODIES: Export<BodyOfRun> = {
  rowsAfter: (db, after, run) => bodiesOfRun(db, run!, after, PAGE),
  columns: {
    id: ({ key }) => key,
    kind: ({ kind }) => kind,
    address: ({ path }) => path,
    name: ({ name }) => name,
    body: ({ body }) => body,
  },
};

const REDIRECTS: Export<RedirectRow> = {
  rowsAfter: (db, after, run) => redirectsAfter(db, run, after, PAGE),
  columns: {
    from: (row) => row.from_path,
    to: (row) => row.to_path,
    status: ({ status }) => status,
    run: (row) => row.run_id,
    holds: (row) => (row.retired_by === null ? "yes" : `until run ${row.retired_by}`),
  },
};

const linesOf =
  <Row extends { readonly id: number }>(own: Export<Row>) =>
  (db: Db, format: OutFormat, run: number | null): Generator<string> =>
    exportLines(own, db, format, run);

/** What can be taken out, by name. */
const EXPORTS = {
  items: linesOf(PAGES),
  changes: linesOf(CHANGES),
  bodies: linesOf(BODIES),
  redirects: linesOf(REDIRECTS),
} as const;
export type Outgoing = keyof typeof EXPORTS;

/** An export's records, read a page at a time by key: never the whole list in memory. */
function* records<Row extends { readonly id: number }>(
  { rowsAfter, columns }: Export<Row>,
  db: Db,
  run: number | null,
): Generator<Record<string, Cell>> {
  const own = Object.entries(columns);
  for (let after = 0; ;) {
    const rows = rowsAfter(db, after, run);
    if (rows.length === 0) return;
    for (const row of rows) yield Object.fromEntries(own.map(([name, cell]) => [name, cell(row)]));
    after = rows.at(-1)!.id;
  }
}

/**
 * The lines of a file that is taken out. In CSV a cell that a spreadsheet would run as a formula gets an apostrophe
 * before it, and the column `made_harmless` names such cells, so that nothing is changed unsaid.
 */
export function outgoingLines(db: Db, what: Outgoing, format: OutFormat, run: number | null): Generator<string> {
  return EXPORTS[what](db, format, run);
}

/** What a run left behind, as a sheet: few columns, and few rows beside those of all pages. */
const SHEETS = {
  changes: {
    name: "Changes",
    fits: `SELECT count(*), max(max(length(before), length(after), length(coalesce(image, '')), length(coalesce(items.name, gone_items.name, ''))))
      FROM run_changes LEFT JOIN items ON items.id = item_id LEFT JOIN gone_items ON gone_items.id = item_id WHERE run_id = @run`,
    cells: (db: Db, run: number | null) => sheetCells(CHANGES, db, run),
  },
  bodies: {
    name: "Bodies",
    fits: `SELECT count(*), max(length(body)) FROM bodies WHERE item_id IN (${PAGES_WITH_BODIES_OF_RUN.replace("?", "@run")})`,
    cells: (db: Db, run: number | null) => sheetCells(BODIES, db, run),
  },
  redirects: {
    name: "Redirects",
    fits: "SELECT count(*), max(max(length(from_path), length(to_path))) FROM redirects WHERE iif(@run IS NULL, retired_by IS NULL AND retired_at IS NULL, run_id = @run)",
    cells: (db: Db, run: number | null) => sheetCells(REDIRECTS, db, run),
  },
} as const;

/**
 * A workbook that is taken out, piece by piece.
 *
 * @throws {Refusal} before the first piece, for what a sheet cannot hold.
 */
export function outgoingSheet(db: Db, what: Outgoing, run: number | null): AsyncGenerator<Uint8Array> {
  if (what === "items")
    throw new Refusal("invalid", "Pages are exported as a workbook from the Pages view, with *Export*.");
  const { name, fits, cells } = SHEETS[what];
  const [rows, longest] = db.prepare(fits).raw().get({ run }) as [number, number | null];
  if (rows >= MOST_SHEET_ROWS || (longest ?? 0) > MOST_CELL_CHARS)
    throw new Refusal(
      "invalid",
      `A sheet holds ${(MOST_SHEET_ROWS - 1).toLocaleString("en")} rows and texts of ${MOST_CELL_CHARS.toLocaleString("en")} characters; here are ${rows.toLocaleString("en")} rows, the longest text has ${(longest ?? 0).toLocaleString("en")}. Export as CSV.`,
    );
  return xlsxChunks(name, cells(db, run));
}

async function* sheetCells<Row extends { readonly id: number }>(
  own: Export<Row>,
  db: Db,
  run: number | null,
): AsyncGenerator<readonly string[]> {
  yield Object.keys(own.columns);
  for (const record of records(own, db, run)) yield Object.values(record).map((cell) => String(cell ?? ""));
}

function* exportLines<Row extends { readonly id: number }>(
  own: Export<Row>,
  db: Db,
  format: OutFormat,
  run: number | null,
): Generator<string> {
  const header = Object.keys(own.columns);
  if (format === "csv") yield `\ufeff${csvLine([...header, MADE_HARMLESS])}`;
  for (const record of records(own, db, run))
    yield format === "csv" ? csvRecord(header, record) : `${JSON.stringify(record)}\n`;
}

/** The rows that an import refused, as lines of CSV. */
export function* refusedLines(db: Db, id: number): Generator<string> {
  yield csvLine(["line", "reason", "content"]);
  // By key: an open read would hold the database while a slow reader downloads.
  const page = db.prepare(
    "SELECT rowid, line, reason, content FROM refused_rows WHERE import_id = ? AND rowid > ? ORDER BY rowid LIMIT ?",
  );
  for (let after = 0; ;) {
    const rows = page.all(id, after, PAGE) as { rowid: number; line: number; reason: string; content: string }[];
    if (rows.length === 0) return;
    for (const row of rows) yield csvLine([row.line, row.reason, row.content]);
    after = rows.at(-1)!.rowid;
  }
}

/** The extra texts of a page. */
export interface ExtraRow {
  readonly kind: Kind;
  readonly id: string;
  readonly address: string;
  readonly texts: readonly ExtraText[];
}

const EXTRA_HEADER = ["kind", "id", "address", "text", "image", "image_address", "live", "draft"] as const;
const EXTRA_PAGE = 2000;

/** The extra texts of all pages, one to a line, asked for a page of them at a time; what is empty and stays so is left out. */
export async function* extraLines(
  format: OutFormat,
  kinds: readonly Kind[],
  rowsOf: (kind: Kind, from: number, count: number) => Promise<readonly ExtraRow[]>,
): AsyncGenerator<string> {
  if (format === "csv") yield `\ufeff${csvLine([...EXTRA_HEADER, MADE_HARMLESS])}`;
  for (const kind of kinds) {
    for (let from = 0; ; from += EXTRA_PAGE) {
      const rows = await rowsOf(kind, from, EXTRA_PAGE);
      for (const { texts, id, address } of rows)
        for (const { text, part, image, live, draft } of texts) {
          if (live === "" && draft === "") continue;
          const record = { kind, id, address, text, image: part || null, image_address: image || null, live, draft };
          yield format === "csv" ? csvRecord(EXTRA_HEADER, record) : `${JSON.stringify(record)}\n`;
        }
      if (rows.length < EXTRA_PAGE) break;
    }
  }
}

/** Pieces of a file as a stream of bytes, made as fast as they are read. */
export function byteStream(
  pieces: Generator<string> | AsyncGenerator<string | Uint8Array>,
): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  return new ReadableStream({
    async pull(controller) {
      let chunk = "";
      while (chunk.length < 64 * 1024) {
        const next = await pieces.next();
        if (next.done) {
          if (chunk) controller.enqueue(encoder.encode(chunk));
          controller.close();
          return;
        }
        if (typeof next.value !== "string") {
          controller.enqueue(next.value);
          return;
        }
        chunk += next.value;
      }
      controller.enqueue(encoder.encode(chunk));
    },
    cancel() {
      void pieces.return(undefined);
    },
  });
}
