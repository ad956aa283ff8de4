import { AbsentPlaces } from "./absent-places";
import { goneReturner } from "./gone";
import { handWriter } from "./hands";
import { importChange, type ImportNotes } from "./import-changes";
import { isChanged, ItemConflict, itemComparer, type Place, placeOf } from "./compare-items";
import { ITEM_COLUMNS, type ItemInput, type ItemRow, type NewRow } from "./items";
import { type Db } from "./open";

/** What became of an item that was brought in; one that returned was gone. */
export type Brought = "added" | "returned" | "updated" | "unchanged";

/** The pages that a file's rows were about. */
export class PagesSeen {
  private readonly lines = new Map<number, number>();

  /** @throws {ItemConflict} where an earlier row was about the page, told by its id there and by its address here, or the other way round. */
  see({ id, name, key, path }: ItemRow, line: number): void {
    const before = this.lines.get(id);
    if (before !== undefined)
      throw new ItemConflict(
        `Line ${before} is about the same page already: “${name || (key ?? path ?? "")}”; a page can be in a file only once`,
      );
    this.note(id, line);
  }

  note(id: number, line: number): void {
    this.lines.set(id, line);
  }

  has(id: number): boolean {
    return this.lines.has(id);
  }
}

/** Brings items in. Call it inside a transaction, with a revision of that transaction. */
export interface ItemBringer {
  /**
   * Brings rows in together: what they have in common is looked up, and written down, once.
   *
   * @param take is given what brings one of them, or any other, in.
   */
  readonly together: (inputs: readonly ItemInput[], revision: number, take: (bring: BringOne) => void) => void;
  /** The pages that were brought in so far, those among them that stayed as they were. */
  readonly seen: { readonly has: (id: number) => boolean };
  readonly placeOf: (input: ItemInput) => Place;
}

/**
 * Brings one in: one whose key (or, without a key, whose path) is known updates it, others are added.
 *
 * @param isFree whether its address is known to be free when all rows are in.
 * @param line of the file that it stands on: a page comes once in a file. `null`: it is of no file.
 * @returns `taken` where another page is at its address; nothing is written then.
 * @throws {ItemConflict}
 */
export type BringOne = (input: ItemInput, isFree: boolean, line: number | null) => Brought | "taken";

/** Brings in items whose addresses are known to be free, one at a time. */
export function itemWriter(db: Db): (input: ItemInput, revision: number) => Brought {
  const { together } = itemBringer(db);
  return (input, revision) => {
    let brought: Brought | "taken" = "unchanged";
    together([], revision, (bring) => (brought = bring(input, true, null)));
    return brought as Brought;
  };
}

const INSERTED = ["key", "kind", "path", ...ITEM_COLUMNS, "attributes"] as const;

/** @param notes told of each page that is changed, what is done to it. */
export function itemBringer(db: Db, notes?: ImportNotes): ItemBringer {
  const absent = new AbsentPlaces(db);
  const compare = itemComparer(db, { absent });
  // No page gets the id of one that is gone.
  const lastId = db
    .prepare("SELECT max(coalesce((SELECT max(id) FROM items), 0), coalesce((SELECT last_item FROM site), 0))")
    .pluck();
  const insert = db.prepare(
    `INSERT INTO items (id, ${INSERTED.join(", ")}, revision, content_revision) VALUES (?, ${INSERTED.map(() => "?").join(", ")}, ?, ?)`,
  );
  const update = db.prepare(
    `UPDATE items SET ${INSERTED.map((column) => `${column} = @${column}`).join(", ")}, revision = @revision, content_revision = @revision WHERE id = @id`,
  );
  const putBody = db.prepare(
    "INSERT INTO bodies (item_id, body) VALUES (?, ?) ON CONFLICT (item_id) DO UPDATE SET body = excluded.body",
  );
  const writeHands = handWriter(db);
  const bringBack = goneReturner(db);
  const seen = new PagesSeen();

  const together: ItemBringer["together"] = (inputs, revision, take) => {
    absent.lookFor(inputs);
    const before = lastId.get() as number;
    let last = before;
    const addPage = (row: NewRow) => {
      insert.run(++last, ...INSERTED.map((column) => row[column]), revision, revision);
      return last;
    };
    take((input, isFree, line) => {
      const change = compare(input);
      const { old, isGone, row, body, hands } = change;
      if (change.occupant && !isFree) return "taken";
      if (old && line !== null) seen.see(old, line);
      if (old && isGone) bringBack(old.id, revision);
      const isOther = !old || isChanged({ ...change, old });
      if (old && !isOther && !isGone) return "unchanged";
      const id = old ? old.id : addPage(row);
      absent.note(row);
      if (!old && line !== null) seen.note(id, line);
      if (old && isOther) update.run({ ...row, id, revision });
      if (body !== null) putBody.run(id, body);
      writeHands(id, hands);
      if (!old) return "added";
      const what = isGone ? "returned" : "updated";
      const bodies = { before: change.bodyBefore, after: body };
      const handsNow = { before: change.handsBefore, changes: hands };
      notes?.changed(importChange(old, what, { before: old, after: row }, bodies, handsNow));
      return what;
    });
    absent.forget();
    if (last > before) notes?.added(before + 1, last);
  };
  return { together, seen, placeOf: (input) => placeOf(compare(input)) };
}
