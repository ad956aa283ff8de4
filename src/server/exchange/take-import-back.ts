import { isExtra } from "../../core/design/kinds";
import { goneMarker, goneReturner, placeTaken } from "../../store/gone";
import {
  bodyHash,
  CHANGED_COLUMNS,
  type ChangedColumn,
  type HandsChange,
  type ImportChange,
  type PlaceBefore,
  placesBefore,
  openChanges,
  type PageChange,
  type StoredImportChange,
} from "../../store/import-changes";
import { type ItemRow } from "../../store/items";
import { type Db } from "../../store/open";
import { type Place } from "../../store/compare-items";
import { settleAddresses } from "../../store/settle-addresses";
import { nextRevision } from "../../store/site";
import { existingImport } from "./imports";

/** How far taking a bringing in back is. */
export interface TakenBack {
  readonly pages: number;
  /** Pages that are as they were before. */
  readonly back: number;
  /** Pages that could not be taken back, or not whole: something of them was changed again since. */
  readonly kept: number;
}

/** Pages to a transaction. */
const BATCH = 500;

/**
 * Takes back what bringing a file in did, a batch to a transaction: pages that it added go to the gone ones, those that went or came
 * back do the other, and of changed ones each value is what it was before, if it still is what the file made of it. Stopped, it can
 * be gone on with.
 *
 * @throws {Refusal} where there is no such import, or it cannot be taken back.
 */
export async function takeImportBack(
  db: Db,
  id: number,
  options: { now: () => string; stopped?: () => boolean; progress?: (progress: TakenBack) => void },
): Promise<TakenBack & { status: "done" | "stopped" }> {
  existingImport(db, id);
  const counts = { pages: 0, back: 0, kept: 0 };
  const noteState = db.prepare("UPDATE import_changes SET state = ? WHERE import_id = ? AND item_id = ?");
  const noteFigures = db.prepare("UPDATE imports SET back = back + ?, kept = kept + ? WHERE id = ?");
  const noteEnd = db.prepare("UPDATE imports SET taken_back_at = ? WHERE id = ?");
  const step = db.transaction((what: readonly ImportChange["what"][], after: number): number | null => {
    const changes = openChanges(db, id, what, after, BATCH);
    if (changes.length === 0) return null;
    const undo = new PageUndo(db, id, nextRevision(db), options.now());
    const before = { ...counts };
    for (const change of changes) {
      const state = undo.take(change) ? "back" : "kept";
      noteState.run(state, id, change.item);
      counts[state]++;
      counts.pages++;
    }
    noteFigures.run(counts.back - before.back, counts.kept - before.kept, id);
    return changes.at(-1)!.item;
  });
  for (const what of ORDER) {
    // Addresses go back all at once, so that no two pages are at one meanwhile: as where two had swapped theirs.
    if (what.includes("updated")) db.transaction(() => moveBack(db, id)).immediate();
    for (let after = step.immediate(what, 0); after !== null; after = step.immediate(what, after)) {
      options.progress?.({ ...counts });
      // The thread hears of a stop only between its steps.
      await new Promise((resolve) => setImmediate(resolve));
      if (options.stopped?.()) return { ...counts, status: "stopped" };
    }
  }
  noteEnd.run(options.now(), id);
  return { ...counts, status: "done" };
}

/** What came leaves first, so that its addresses are free for what was there. */
const ORDER: readonly (readonly ImportChange["what"][])[] = [["added", "returned"], ["updated"], ["gone"]];

/** Puts the pages that a bringing in moved, or told by another id, back to where they were: those whose place is free by then. */
function moveBack(db: Db, id: number): void {
  const { moved, renamed } = placesBefore(db, id);
  const revision = nextRevision(db);
  const at = db.prepare("SELECT id, key, name FROM items WHERE path = ? AND id <> ?");
  const move = db.prepare(
    "UPDATE items SET path = @path, revision = @revision, content_revision = @revision WHERE id = @item",
  );
  const free = <T extends PlaceBefore>(
    rows: readonly T[],
    place: (row: T) => string | null,
    occupant: (row: T) => unknown,
  ) =>
    settleAddresses(rows, (row) => ({
      page: row.item,
      path: place(row),
      occupant: place(row) === null ? null : ((occupant(row) as Place["occupant"] | undefined) ?? null),
    })).free;
  for (const { item, path } of free(
    moved,
    ({ path: own }) => own,
    ({ path: own, item: page }) => at.get(own, page),
  ))
    move.run({ item, path, revision });
  const withKey = db.prepare("SELECT id, key, name FROM items WHERE kind = ? AND key = ? AND id <> ?");
  const named = free(
    renamed,
    ({ key }) => key,
    ({ kind, key, item }) => withKey.get(kind, key, item),
  );
  const unname = db.prepare("UPDATE items SET key = NULL WHERE id = ?");
  const name = db.prepare(
    "UPDATE items SET kind = @kind, key = @key, revision = @revision, content_revision = @revision WHERE id = @item",
  );
  for (const { item } of named) unname.run(item);
  for (const { item, kind, key } of named) name.run({ item, kind, key, revision });
}

/** Undoes what was done to single pages, inside one transaction. */
class PageUndo {
  private readonly mark;
  private readonly bringBack;
  private readonly takenOf;
  private readonly statements;

  constructor(
    db: Db,
    importId: number,
    private readonly revision: number,
    now: string,
  ) {
    this.mark = goneMarker(db, importId, now);
    this.bringBack = goneReturner(db);
    this.takenOf = placeTaken(db);
    this.statements = {
      item: db.prepare("SELECT * FROM items WHERE id = ?"),
      isGone: db.prepare("SELECT 1 FROM gone_items WHERE id = ?").pluck(),
      withKey: db.prepare("SELECT 1 FROM items WHERE kind = ? AND key = ? AND id <> ?").pluck(),
      update: db.prepare(
        `UPDATE items SET ${CHANGED_COLUMNS.map((column) => `${column} = @${column}`).join(", ")}, revision = @revision, content_revision = @revision WHERE id = @id`,
      ),
      body: db.prepare("SELECT body FROM bodies WHERE item_id = ?").pluck(),
      putBody: db.prepare(
        "INSERT INTO bodies (item_id, body) VALUES (?, ?) ON CONFLICT (item_id) DO UPDATE SET body = excluded.body",
      ),
      hand: db.prepare("SELECT value FROM hand_texts WHERE item_id = ? AND text = ?").pluck(),
      extra: db.prepare("SELECT value FROM hand_extras WHERE item_id = ? AND text = ? AND image = ?").pluck(),
      dropHand: db.prepare("DELETE FROM hand_texts WHERE item_id = ? AND text = ?"),
      dropExtra: db.prepare("DELETE FROM hand_extras WHERE item_id = ? AND text = ? AND image = ?"),
      putHand: db.prepare(
        "INSERT INTO hand_texts (item_id, text, value) VALUES (?, ?, ?) ON CONFLICT (item_id, text) DO UPDATE SET value = excluded.value",
      ),
      putExtra: db.prepare(
        "INSERT INTO hand_extras (item_id, text, image, value) VALUES (?, ?, ?, ?) ON CONFLICT (item_id, text, image) DO UPDATE SET value = excluded.value",
      ),
    };
  }

  /** @returns whether the page is as it was before. */
  take({ item, what, change, hands }: StoredImportChange): boolean {
    if (what === "added") return this.isThere(item) ? this.mark([item]) === 1 : this.isGone(item);
    if (what === "gone") {
      if (this.isThere(item)) return true;
      if (!this.isGone(item) || this.takenOf(item) !== null) return false;
      this.bringBack(item, this.revision);
      return true;
    }
    if (!this.isThere(item)) return what === "returned" && this.isGone(item);
    const isWhole = [this.undoColumns(item, what, change), this.undoBody(item, change), this.undoHands(item, hands)];
    if (what === "returned") this.mark([item]);
    return isWhole.every(Boolean);
  }

  private isThere(id: number): boolean {
    return this.statements.item.get(id) !== undefined;
  }

  private isGone(id: number): boolean {
    return this.statements.isGone.get(id) !== undefined;
  }

  /** Each column that still is what the file made of it; the id only where no other page has it by now. A page that stays was moved before. */
  private undoColumns(id: number, what: ImportChange["what"], change: PageChange | null): boolean {
    const { item, update, withKey } = this.statements;
    const row = item.get(id) as ItemRow;
    const next: Record<ChangedColumn, string | null> = { ...row };
    let isWhole = true;
    for (const [column, [before, after]] of Object.entries(change?.columns ?? {}) as [
      ChangedColumn,
      readonly [string | null, string | null],
    ][]) {
      const isPlace = what === "updated" && (column === "path" || column === "kind" || column === "key");
      if (row[column] === after && !isPlace) next[column] = before;
      else if (row[column] !== before) isWhole = false;
    }
    const isOther = next.key !== row.key || next.kind !== row.kind;
    if (isOther && next.key !== null && withKey.get(next.kind, next.key, id) !== undefined) {
      next.key = row.key;
      next.kind = row.kind;
      isWhole = false;
    }
    update.run({ ...next, id, revision: this.revision });
    return isWhole;
  }

  private undoBody(id: number, change: PageChange | null): boolean {
    if (!change?.body) return true;
    const [before, hashAfter] = change.body;
    const now = (this.statements.body.get(id) as string | undefined) ?? "";
    if (bodyHash(now) !== hashAfter) return now === before;
    this.statements.putBody.run(id, before);
    return true;
  }

  private undoHands(id: number, hands: readonly HandsChange[]): boolean {
    const { hand, extra, dropHand, dropExtra, putHand, putExtra } = this.statements;
    return hands
      .map(({ text, image, before, after }) => {
        const isExtraText = isExtra(text);
        const now = ((isExtraText ? extra.get(id, text, image) : hand.get(id, text)) as string | undefined) ?? null;
        if (now !== after) return now === before;
        if (before !== null) {
          if (isExtraText) putExtra.run(id, text, image, before);
          else putHand.run(id, text, before);
        } else if (isExtraText) dropExtra.run(id, text, image);
        else dropHand.run(id, text);
        return true;
      })
      .every(Boolean);
  }
}
