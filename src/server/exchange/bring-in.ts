import { type Site } from "../../core/design/design";
import { siteSchema } from "../../core/design/schema";
import { type Kind, TEXTS } from "../../core/design/kinds";
import { type FieldFormat, type FormatGuess, guessFormat } from "../../core/text/figures";
import { type ImportRow, importRows, takenReason } from "./import-rows";
import { type ByHandChoice } from "../../core/infer/by-hand";
import { markByHand } from "./mark-by-hand";
import { CancelledCall, isRefusal } from "../threads/call";
import { Refusal } from "../../core/refusal";
import { basename } from "node:path";
import { readTable, tableShape, type TableShape } from "../../formats/csv-read";
import { type RowSource } from "../../formats/row-file";
import { type RefusedRow } from "../../formats/table";
import { fieldOfColumn, type Mapping, mappingError, sameNames } from "../../formats/mapping";
import { type Target } from "../../core/design/import-targets";
import { type BringOne, type ItemBringer, itemBringer } from "../../store/bring-items";
import { ItemConflict } from "../../store/compare-items";
import { goneMarker } from "../../store/gone";
import { forgetOldChanges, importNotes } from "../../store/import-changes";
import { type ItemInput } from "../../store/items";
import { handsMarker } from "../../store/mark-hands";
import { type Db, explain, isStoreFailure } from "../../store/open";
import { settleAddresses } from "../../store/settle-addresses";
import { nextRevision, readSite, revision, writeSite } from "../../store/site";
import { takeKinds } from "./file-kinds";
import { firstMapping, rememberMapping } from "./remembered-mapping";
import { uploadedFile } from "./uploads";

/** A first look at a file: how it was read, its columns with a guess at each, and its first rows. */
export interface FirstLook {
  readonly token: string;
  readonly file: string;
  readonly encoding: TableShape["encoding"];
  readonly delimiter: TableShape["delimiter"];
  /** What it was made of, where it is no text with delimiters. */
  readonly source: RowSource | null;
  readonly columns: readonly {
    readonly name: string;
    readonly target: Target;
    readonly filled: number;
    /** How its figures are written, `null` where it holds none that could be read otherwise. */
    readonly figures: FormatGuess | null;
    /** How they were said to be written before; `null` where nothing was said. */
    readonly format: FieldFormat | null;
  }[];
  /** What was odd about the file, and how it was read. */
  readonly notes: readonly string[];
  /** What was said of the last file with this header; `null` where there was none. */
  readonly kind: Kind | null;
  readonly byHand: ByHandChoice | null;
  readonly rows: readonly (readonly string[])[];
  readonly refused: readonly RefusedRow[];
}

export interface ImportProgress {
  readonly import: number;
  /** Rows of the file so far, without the header: each was added, updated, as it was, or refused. */
  readonly rows: number;
  readonly added: number;
  /** Pages that were gone, and are back. */
  readonly returned: number;
  readonly updated: number;
  readonly unchanged: number;
  readonly refused: number;
  /** Texts that are taken for written by hand, at the end. */
  readonly byHand: number;
  /** Pages that the file does not have and that were marked as gone, where it was said to have them all. */
  readonly gone: number;
  /** Pages that it does not have either, but that stay: rows were refused, and may have been theirs. */
  readonly stayed: number;
}

const NOTHING_YET = {
  rows: 0,
  added: 0,
  returned: 0,
  updated: 0,
  unchanged: 0,
  refused: 0,
  byHand: 0,
  gone: 0,
  stayed: 0,
};
const FIRST_ROWS = 20;
/** So many rows are looked at for how figures are written. */
const LOOKED_AT = 2000;
const BATCH = 2000;

const DAMAGED = "Some bytes are not valid UTF-8 like the rest of the file; rows that have them are rejected.";

const REMEMBERED = "Columns are mapped as for the last file with these headings.";

/** @throws {TableError} for a file that is no table. */
export async function firstLook(db: Db, token: string, name: string): Promise<FirstLook> {
  const file = uploadedFile(token);
  const shape = await tableShape(file);
  const rows: (readonly string[])[] = [];
  const refused: RefusedRow[] = [];
  for await (const piece of readTable(file, shape)) {
    for (const row of piece) {
      if ("reason" in row) refused.push(row);
      else if (rows.push(row.cells) === LOOKED_AT) break;
    }
    if (rows.length === LOOKED_AT) break;
  }
  const site = readSite(db);
  const { targets, formats, kind, byHand, isRemembered } = firstMapping(db, site, shape.header, rows);
  // How figures are written where the file does not tell.
  const language = site?.language ?? "en";
  const columns = shape.header.map((column, i) => ({
    name: column,
    target: targets[i]!,
    filled: rows.slice(0, FIRST_ROWS).filter((cells) => (cells[i] ?? "").trim() !== "").length,
    figures: figuresOf(
      rows.map((cells) => cells[i] ?? ""),
      language,
      shape,
    ),
    format: formats[i] ?? null,
  }));
  const { encoding, delimiter, source } = shape;
  const notes = [
    ...(isRemembered ? [REMEMBERED] : []),
    ...shape.notes,
    ...(shape.isDamaged ? [DAMAGED] : []),
    ...sameNames(shape.header, { targets }),
  ];
  return {
    token,
    file: basename(name),
    encoding,
    delimiter,
    source: source && { type: source.type, sheets: source.sheets, sheet: source.sheet },
    columns,
    notes,
    kind,
    byHand,
    rows: rows.slice(0, FIRST_ROWS),
    refused: refused.slice(0, FIRST_ROWS),
  };
}

/** How a column writes its figures: numbers of spreadsheets and JSON come with a point, unless they are texts that show otherwise. */
function figuresOf(values: readonly string[], language: string, { source }: TableShape): FormatGuess | null {
  const guess = guessFormat(values, language);
  return source && guess?.type === "number" && !guess.isSure ? { ...guess, format: "point", isSure: true } : guess;
}

/** How a file is brought in. */
export interface BringInAsked {
  readonly mapping: Mapping;
  readonly byHand: ByHandChoice;
  /** Whether it has all pages of its kinds: those that it does not have are gone. */
  readonly areAll?: boolean;
}

/** Rows that come in, wherever they come from. */
export interface BringSource {
  /** What they are called where imports are listed. */
  readonly name: string;
  readonly header: readonly string[];
  readonly rows: (site: Site) => AsyncIterable<readonly ImportRow[]>;
  /** Kinds that they are all pages of, where they are said to be all; else those that rows were of. */
  readonly kinds?: readonly Kind[];
  /** Told of rows whose pages are in, inside the transaction that brought them in. */
  readonly brought?: (rows: readonly ImportRow[]) => void;
}

/** How bringing in is watched. */
export interface BringOptions {
  readonly stopped?: () => boolean;
  readonly progress?: (progress: ImportProgress) => void;
  readonly now: () => string;
}

/** Brings a file's pages in. @throws {Refusal} for a mapping that does not fit the file. */
export async function bringIn(
  db: Db,
  file: string,
  name: string,
  asked: BringInAsked,
  options: BringOptions,
): Promise<ImportProgress & { status: "done" | "stopped" }> {
  const { mapping, byHand } = asked;
  const shape = await tableShape(file);
  const { header } = shape;
  const wrong = mappingError(mapping, header);
  if (wrong) throw new Refusal("invalid", wrong);
  rememberMapping(db, header, mapping, byHand);
  const rows = (site: Site) => importRows(db, readTable(file, shape), header, mapping, site);
  return bringRows(db, { name, header, rows }, asked, options);
}

/**
 * Brings pages in, a batch to a transaction. Stopped, it keeps what is in; brought in again, the same rows
 * update by id or address. Rows that cannot be items are stored with their line and the reason.
 */
export async function bringRows(
  db: Db,
  source: BringSource,
  { mapping, byHand, areAll = false }: BringInAsked,
  options: BringOptions,
): Promise<ImportProgress & { status: "done" | "stopped" }> {
  const { name, header } = source;
  const site = takeKinds(db, mapping);
  forgetOldChanges(db);
  const id = Number(
    db
      .prepare("INSERT INTO imports (file, started_at, status, tracked) VALUES (?, ?, 'running', 1)")
      .run(name, options.now()).lastInsertRowid,
  );
  const counts = { ...NOTHING_YET, import: id };
  const since = revision(db);
  // Where a column says which texts are by hand, nothing is guessed.
  const texts = new Set(
    mapping.targets.includes("by-hand") ? [] : TEXTS.filter((text) => mapping.targets.includes(text)),
  );
  const noted = new Set<Kind>();
  const { together, placeOf, seen } = itemBringer(db, importNotes(db, id));
  const kinds = new Set<Kind>(source.kinds);
  /** Rows whose pages would come to where others are: those may leave by a later row. */
  const late: { readonly line: number; readonly item: ItemInput }[] = [];
  const refuse = db.prepare("INSERT INTO refused_rows (import_id, line, reason, content) VALUES (?, ?, ?, ?)");
  const keep = db.prepare(
    "UPDATE imports SET added = @added, returned = @returned, gone = @gone, updated = @updated, unchanged = @unchanged, refused = @refused WHERE id = @import",
  );
  const refuseRow = ({ line, reason, content }: RefusedRow) => {
    refuse.run(id, line, reason, content);
    counts.refused++;
    counts.rows++;
  };
  const bringRow = (bring: BringOne, item: ItemInput, line: number, isFree: boolean) => {
    if (!noted.has(item.kind)) noteFormats(db, item.kind, header, mapping);
    noted.add(item.kind);
    kinds.add(item.kind);
    try {
      const brought = bring(item, isFree, line);
      if (brought === "taken") {
        late.push({ line, item });
        return;
      }
      counts[brought]++;
      counts.rows++;
    } catch (error) {
      if (!(error instanceof ItemConflict)) throw error;
      refuseRow({ line, reason: error.message, content: contentOf(item) });
    }
  };
  const takeBatch = db.transaction((batch: readonly ImportRow[]) => {
    const items = batch.flatMap(({ item }) => ("reason" in item ? [] : [item]));
    together(items, nextRevision(db), (bring) => {
      for (const { item, line } of batch) {
        if ("reason" in item) refuseRow(item);
        else bringRow(bring, item, line, false);
      }
    });
    source.brought?.(batch);
    keep.run(counts);
  });
  const settleLate = db.transaction(() => {
    const { free, taken } = settleAddresses(late, ({ item }) => placeOf(item));
    together([], nextRevision(db), (bring) => {
      for (const { item, line } of free) bringRow(bring, item, line, true);
    });
    for (const { row, place } of taken)
      refuseRow({ line: row.line, reason: takenReason(place), content: contentOf(row.item) });
    source.brought?.(free.map(({ line, item }) => ({ line, item })));
    keep.run(counts);
  });
  const end = (status: "done" | "stopped" | "failed", message: string | null) =>
    db
      .prepare("UPDATE imports SET status = ?, ended_at = ?, message = ? WHERE id = ?")
      .run(status, options.now(), message, id);
  try {
    for await (const batch of inBatches(source.rows(site))) {
      takeBatch.immediate(batch);
      options.progress?.({ ...counts });
      // The thread hears of a stop only between its steps.
      await new Promise((resolve) => setImmediate(resolve));
      if (options.stopped?.()) {
        end("stopped", null);
        return { ...counts, status: "stopped" };
      }
    }
    if (late.length > 0) settleLate.immediate();
    counts.byHand = markByHand(db, readSite(db) ?? site, { choice: byHand, since, texts }, handsMarker(db, id));
    if (areAll) {
      const missing = missingPages(db, kinds, seen);
      if (counts.refused > 0) counts.stayed = missing.length;
      else {
        const isEnded = await markMissing(db, missing, id, {
          ...options,
          told: (gone) => ((counts.gone = gone), keep.run(counts)),
        });
        if (!isEnded) {
          end("stopped", null);
          return { ...counts, status: "stopped" };
        }
      }
    }
    end("done", null);
    return { ...counts, status: "done" };
  } catch (error) {
    if (error instanceof CancelledCall) {
      end("stopped", null);
      return { ...counts, status: "stopped" };
    }
    if (!isRefusal(error) && !isStoreFailure(error)) {
      end("failed", "Something went wrong that should not");
      throw error;
    }
    const message = isRefusal(error) ? error.message : explain(error);
    try {
      end("failed", message);
    } catch {
      // A full disk cannot note its own failure; the message still reaches the person.
    }
    throw new Refusal(
      isRefusal(error) ? error.code : "store",
      `${message} ${counts.added + counts.updated > 0 ? `${(counts.added + counts.updated).toLocaleString("en")} pages are in; import the file again to continue.` : "No page was changed."}`,
      { cause: error },
    );
  }
}

/** Rows in their order, so many to a transaction. */
async function* inBatches(pieces: AsyncIterable<readonly ImportRow[]>): AsyncGenerator<readonly ImportRow[]> {
  let waiting: readonly ImportRow[] = [];
  for await (const piece of pieces) {
    const rows = waiting.length === 0 ? piece : [...waiting, ...piece];
    let from = 0;
    for (; from + BATCH <= rows.length; from += BATCH) yield rows.slice(from, from + BATCH);
    waiting = rows.slice(from);
  }
  if (waiting.length > 0) yield waiting;
}

/** The pages of some kinds that a file did not have. */
function missingPages(db: Db, kinds: ReadonlySet<Kind>, seen: ItemBringer["seen"]): number[] {
  const ids = db.prepare("SELECT id FROM items WHERE kind = ? ORDER BY id").pluck();
  return [...kinds].flatMap((kind) => (ids.all(kind) as number[]).filter((id) => !seen.has(id)));
}

/**
 * Marks pages as gone, a batch to a transaction, and writes down that they are.
 *
 * @param told how many are gone, inside each transaction. @returns whether it came to its end, and was not stopped.
 */
async function markMissing(
  db: Db,
  missing: readonly number[],
  importId: number,
  { now, stopped, told }: { now: () => string; stopped?: () => boolean; told: (gone: number) => void },
): Promise<boolean> {
  const mark = goneMarker(db, importId, now());
  const { changed } = importNotes(db, importId);
  for (let from = 0; from < missing.length; from += BATCH) {
    const batch = missing.slice(from, from + BATCH);
    db.transaction(() => {
      nextRevision(db);
      mark(batch);
      for (const item of batch) changed({ item, what: "gone", change: null, hands: [] });
      told(from + batch.length);
    }).immediate();
    await new Promise((resolve) => setImmediate(resolve));
    if (stopped?.()) return from + batch.length === missing.length;
  }
  return true;
}

/** What of a row is kept where it is refused for what is there already. */
function contentOf({ key, path, columns }: ItemInput): string {
  return [key, path, columns.name].filter(Boolean).join(" | ");
}

/**
 * Keeps how the file's columns write their figures with the site's settings, before the first page of a kind is in: none
 * of its figures is ever read otherwise, whenever the bringing in ends. Call it inside a transaction.
 */
function noteFormats(db: Db, kind: Kind, header: readonly string[], mapping: Mapping): void {
  const formats = Object.fromEntries(
    (mapping.formats ?? []).flatMap((format, i) => {
      const field = fieldOfColumn(header, mapping, i);
      return format && field !== null ? [[field, format]] : [];
    }),
  );
  if (Object.keys(formats).length === 0) return;
  // The settings as they are by now: somebody may have saved others meanwhile.
  const site = readSite(db) ?? siteSchema.parse({});
  const next = { ...site, formats: { ...site.formats, [kind]: { ...site.formats[kind], ...formats } } };
  if (JSON.stringify(next) !== JSON.stringify(site)) writeSite(db, next);
}
