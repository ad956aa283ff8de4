import { type Kind, wordKey } from "../../core/design/kinds";
import { Cancelled } from "../../core/proof/prove-set";
import { Refusal } from "../../core/refusal";
import { readTable, tableShape } from "../../formats/csv-read";
import { type RefusedRow } from "../../formats/table";
import { type Mapping, mappingError } from "../../formats/mapping";
import { ItemConflict } from "../../store/compare-items";
import { type ForeseenRow, itemForeseer } from "../../store/foresee-items";
import { settleAddresses } from "../../store/settle-addresses";
import { countOfKind, type ItemInput } from "../../store/items";
import { type Db } from "../../store/open";
import { siteForFile } from "./file-kinds";
import { type ImportRow, importRows, takenReason } from "./import-rows";

/** A field that rows would change: on how many pages, and how it reads there before and after. */
export interface ForeseenField {
  readonly field: string;
  readonly count: number;
  readonly examples: readonly { readonly name: string; readonly before: string; readonly after: string }[];
}

/** A text that rows would change and that is by hand here, or waits to go out with a run. */
export interface ForeseenConflict {
  readonly name: string;
  readonly text: string;
  /** What the rows say. */
  readonly comes: string;
  /** What is here: the text by hand, or what the run makes of it. */
  readonly here: string;
  readonly by: "hand" | "run";
}

/** What bringing a file in would do, before it does. */
export interface Foreseen {
  /** Rows of the file without the header: each would be added, change a page, leave it as it is, or be refused. */
  readonly rows: number;
  readonly added: number;
  /** Pages that are gone and would be back. */
  readonly returned: number;
  readonly updated: number;
  readonly unchanged: number;
  readonly refused: number;
  /** Pages of the kinds that the file has which it does not name; they stay as they are, unless the file is said to have all. */
  readonly untouched: number;
  /** The kinds that the file has. */
  readonly kinds: readonly Kind[];
  /** Those that change most pages first. */
  readonly fields: readonly ForeseenField[];
  readonly firstRefused: readonly RefusedRow[];
  /** How many texts would be changed that somebody works on here, and the first of them. */
  readonly conflicts: { readonly count: number; readonly first: readonly ForeseenConflict[] };
  /** Words for kinds that the site has not, and how many rows are refused for each; those of most rows first. */
  readonly unknownKinds: readonly { readonly word: string; readonly rows: number }[];
}

/** So many rows are looked at before others get their turn. */
const STEP = 250;
const EXAMPLES = 3;
const MOST_FIELDS = 100;
const FIRST_REFUSED = 20;
const MOST_UNKNOWN = 100;
/** So much of a value is shown. */
const MOST_SHOWN = 200;

export interface ForeseeOptions {
  readonly signal?: AbortSignal;
  /** Told how many rows were looked at. */
  readonly progress?: (rows: number) => void;
}

/**
 * Reads a whole file and says what bringing it in would do; nothing is written.
 *
 * @throws {Refusal} for a file or a mapping that cannot be used; {Cancelled} where it is no longer wanted.
 */
export async function foresee(db: Db, file: string, mapping: Mapping, options: ForeseeOptions = {}): Promise<Foreseen> {
  const shape = await tableShape(file);
  const wrong = mappingError(mapping, shape.header);
  if (wrong) throw new Refusal("invalid", wrong);
  const rows = importRows(db, readTable(file, shape), shape.header, mapping, siteForFile(db, mapping));
  return foreseeRows(db, rows, options);
}

/** What bringing rows in would do; nothing is written. @throws {Cancelled} */
export async function foreseeRows(
  db: Db,
  source: AsyncIterable<readonly ImportRow[]>,
  { signal, progress }: ForeseeOptions = {},
): Promise<Foreseen> {
  const foreseen = new ForeseenRows(db);
  let rows = 0;
  for await (const piece of source)
    for (let from = 0; from < piece.length; from += STEP) {
      const step = piece.slice(from, from + STEP);
      foreseen.seeAll(step);
      rows += step.length;
      progress?.(rows);
      await new Promise((resolve) => setImmediate(resolve));
      if (signal?.aborted) throw new Cancelled();
    }
  return foreseen.all();
}

/** Whether a text of a page is by hand, or waits in a run, and is to be something else than what comes. */
function workedOnReader(db: Db) {
  const hand = db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = ?").pluck();
  const waiting = db
    .prepare(
      `SELECT after FROM run_changes INDEXED BY run_changes_waiting JOIN runs ON runs.id = run_id AND runs.status <> 'done'
       WHERE run_changes.status = 'waiting' AND item_id = ? AND text = ? LIMIT 1`,
    )
    .pluck();
  const runs = db.prepare("SELECT count(*) FROM runs WHERE status <> 'done'").pluck().get() as number;
  return (
    item: number,
    text: string,
    comes: string,
  ): { readonly value: string; readonly by: "hand" | "run" } | null => {
    const written = hand.get(item, text) as string | undefined;
    if (written !== undefined && written !== comes) return { value: written, by: "hand" };
    const made = runs === 0 ? undefined : (waiting.get(item, text) as string | undefined);
    return made === undefined || made === comes ? null : { value: made, by: "run" };
  };
}

/** What rows would do, added up. */
class ForeseenRows {
  private readonly counts = { rows: 0, added: 0, returned: 0, updated: 0, unchanged: 0, refused: 0 };
  private readonly fields = new Map<string, { count: number; examples: ForeseenField["examples"][number][] }>();
  private readonly firstRefused: RefusedRow[] = [];
  private readonly unknownKinds = new Map<string, { readonly word: string; rows: number }>();
  private readonly kinds = new Set<Kind>();
  /** How many pages of a kind were named. */
  private readonly named = new Map<Kind, number>();
  private readonly late: { readonly line: number; readonly item: ItemInput }[] = [];
  private readonly conflicts = { count: 0, first: [] as ForeseenConflict[] };
  private readonly foreseer;
  private readonly workedOn;

  constructor(private readonly db: Db) {
    this.foreseer = itemForeseer(db);
    this.workedOn = workedOnReader(db);
  }

  /** Nothing else may be done between these rows. */
  seeAll(rows: readonly ImportRow[]): void {
    this.foreseer.together(
      rows.flatMap(({ item }) => ("reason" in item ? [] : [item])),
      () => {
        for (const { item, line } of rows) {
          if ("reason" in item) this.refuse(item);
          else this.see(item, line);
        }
      },
    );
  }

  private refuse(row: RefusedRow): void {
    this.counts.rows++;
    this.counts.refused++;
    if (row.unknownKind !== undefined) this.countUnknown(row.unknownKind);
    if (this.firstRefused.length < FIRST_REFUSED) this.firstRefused.push(row);
  }

  private countUnknown(word: string): void {
    const key = wordKey(word);
    const known = this.unknownKinds.get(key);
    if (known) known.rows++;
    else if (this.unknownKinds.size < MOST_UNKNOWN) this.unknownKinds.set(key, { word, rows: 1 });
  }

  private see(item: ItemInput, line: number, isFree = false): void {
    this.kinds.add(item.kind);
    try {
      const row = this.foreseer.look(item, isFree, line);
      if (row === "taken") this.late.push({ line, item });
      else this.add(row);
    } catch (error) {
      if (!(error instanceof ItemConflict)) throw error;
      this.refuse({ line, reason: error.message, content: item.path ?? item.key ?? "" });
    }
  }

  private add({ brought, item, name, kind: before, changes }: ForeseenRow): void {
    this.counts.rows++;
    this.counts[brought]++;
    if (before !== null) this.named.set(before, (this.named.get(before) ?? 0) + 1);
    for (const { field, ...values } of changes) {
      const here = item === null ? null : this.workedOn(item, field, values.after);
      if (here)
        this.addConflict({ name, text: field, comes: shown(values.after), here: shown(here.value), by: here.by });
      let own = this.fields.get(field);
      if (!own && this.fields.size < MOST_FIELDS) this.fields.set(field, (own = { count: 0, examples: [] }));
      if (!own) continue;
      own.count++;
      if (own.examples.length < EXAMPLES)
        own.examples.push({ name, before: shown(values.before), after: shown(values.after) });
    }
  }

  private addConflict(conflict: ForeseenConflict): void {
    this.conflicts.count++;
    if (this.conflicts.first.length < FIRST_REFUSED) this.conflicts.first.push(conflict);
  }

  all(): Foreseen {
    const { free, taken } = settleAddresses(this.late, ({ item }) => this.foreseer.placeOf(item));
    for (const { item, line } of free) this.see(item, line, true);
    for (const { row, place } of taken)
      this.refuse({ line: row.line, reason: takenReason(place), content: row.item.path ?? "" });
    const untouched = (kind: Kind) => countOfKind(this.db, kind) - (this.named.get(kind) ?? 0);
    return {
      ...this.counts,
      kinds: [...this.kinds],
      untouched: [...this.kinds].reduce((sum, kind) => sum + untouched(kind), 0),
      fields: [...this.fields].map(([field, own]) => ({ field, ...own })).sort((a, b) => b.count - a.count),
      firstRefused: this.firstRefused,
      conflicts: this.conflicts,
      unknownKinds: [...this.unknownKinds.values()].sort((a, b) => b.rows - a.rows),
    };
  }
}

function shown(text: string): string {
  return text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)} …` : text;
}
