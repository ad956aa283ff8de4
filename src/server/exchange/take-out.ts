import { csvLine, harmless } from "../../formats/csv-write";
import { BOARD_KINDS, type Kind, type TextName } from "../../core/design/kinds";
import { type ExtraText } from "../extras/extra-desk";
import { type ItemRow } from "../../store/items";
import { type Db } from "../../store/open";
import { changesAfter, redirectsAfter } from "../../store/runs";

export type Outgoing = "items" | "changes" | "redirects";
export type OutFormat = "csv" | "jsonl";

const PAGE = 500;

/** Records page by page, by key: never the whole list in memory. */
function* records(db: Db, what: Outgoing, run: number | null): Generator<Record<string, string | number | null>> {
  if (what === "items") {
    const page = db.prepare("SELECT * FROM items WHERE id > ? ORDER BY id LIMIT ?");
    const hands = db.prepare("SELECT text, value FROM hand_texts WHERE item_id = ? ORDER BY text");
    for (let after = 0; ;) {
      const rows = page.all(after, PAGE) as ItemRow[];
      if (rows.length === 0) return;
      for (const row of rows) {
        const own = hands.all(row.id) as { text: TextName; value: string }[];
        // What is not on the site yet: what is there stands in the text's own column.
        const waiting = own.filter(({ text, value }) => value !== row[text]).map(({ text, value }) => [text, value]);
        yield {
          id: row.key,
          kind: row.kind,
          address: row.path,
          name: row.name,
          category: row.category,
          category_path: row.category_path,
          keyword: row.keyword,
          title: row.title,
          description: row.description,
          slug: row.slug,
          by_hand: own.map(({ text }) => text).join(" "),
          hand_texts: waiting.length > 0 ? JSON.stringify(Object.fromEntries(waiting)) : "",
          summary: row.summary,
          intro: row.intro,
          author: row.author,
          published: row.published,
          updated: row.updated,
          price: row.price,
          count: row.count,
          robots: row.robots,
          meta_keywords: row.meta_keywords,
          attributes: row.attributes,
        };
      }
      after = rows.at(-1)!.id;
    }
  }
  for (let after = 0; ;) {
    if (what === "changes") {
      const rows = changesAfter(db, run!, after, PAGE);
      if (rows.length === 0) return;
      for (const row of rows)
        yield {
          kind: row.kind,
          name: row.name,
          text: row.text,
          image: row.part,
          image_address: row.image,
          before: row.before,
          after: row.after,
          path_before: row.path_before,
          path_after: row.path_after,
          status: row.status,
          reason: row.reason,
        };
      after = rows.at(-1)!.id;
    } else {
      const rows = redirectsAfter(db, run, after, PAGE);
      if (rows.length === 0) return;
      for (const row of rows)
        yield {
          from: row.from_path,
          to: row.to_path,
          status: row.status,
          run: row.run_id,
          holds: row.retired_by === null ? "yes" : `until run ${row.retired_by}`,
        };
      after = rows.at(-1)!.id;
    }
  }
}

const HEADERS: Record<Outgoing, readonly string[]> = {
  items: [
    "id",
    "kind",
    "address",
    "name",
    "category",
    "category_path",
    "keyword",
    "title",
    "description",
    "slug",
    "by_hand",
    "hand_texts",
    "summary",
    "intro",
    "author",
    "published",
    "updated",
    "price",
    "count",
    "robots",
    "meta_keywords",
    "attributes",
  ],
  changes: [
    "kind",
    "name",
    "text",
    "image",
    "image_address",
    "before",
    "after",
    "path_before",
    "path_after",
    "status",
    "reason",
  ],
  redirects: ["from", "to", "status", "run", "holds"],
};

/**
 * The lines of a file that is taken out. In CSV a cell that a spreadsheet would run as a formula gets an apostrophe
 * before it, and the column `made_harmless` names such cells, so that nothing is changed unsaid.
 */
export function* outgoingLines(db: Db, what: Outgoing, format: OutFormat, run: number | null): Generator<string> {
  if (format === "jsonl") {
    for (const record of records(db, what, run)) yield `${JSON.stringify(record)}\n`;
    return;
  }
  const header = HEADERS[what];
  yield `\ufeff${csvLine([...header, "made_harmless"])}`;
  for (const record of records(db, what, run)) yield csvRecord(header, record);
}

/** A record as a line of CSV, with the names of the cells that were made harmless at its end. */
function csvRecord(header: readonly string[], record: Readonly<Record<string, string | number | null>>): string {
  const changed = header.filter((name) => {
    const value = record[name];
    return typeof value === "string" && harmless(value) !== value;
  });
  return csvLine([...header.map((name) => record[name] ?? null), changed.join(" ")]);
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
  rowsOf: (kind: Kind, from: number, count: number) => Promise<readonly ExtraRow[]>,
): AsyncGenerator<string> {
  if (format === "csv") yield `\ufeff${csvLine([...EXTRA_HEADER, "made_harmless"])}`;
  for (const kind of BOARD_KINDS) {
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

/** Lines as a stream of bytes, made as fast as they are read. */
export function textStream(lines: Generator<string> | AsyncGenerator<string>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  return new ReadableStream({
    async pull(controller) {
      let chunk = "";
      while (chunk.length < 64 * 1024) {
        const next = await lines.next();
        if (next.done) {
          if (chunk) controller.enqueue(encoder.encode(chunk));
          controller.close();
          return;
        }
        chunk += next.value;
      }
      controller.enqueue(encoder.encode(chunk));
    },
    cancel() {
      void lines.return(undefined);
    },
  });
}
