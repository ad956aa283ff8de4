import { type HandExtra, type HandName, type Hands } from "../core/design/hands";
import { type Kind } from "../core/design/kinds";
import { ITEM_COLUMNS, type ItemRow } from "./items";
import { type Db } from "./open";
import { pathRestorer } from "./redirects";

const COLUMNS = ["id", "key", "kind", "path", ...ITEM_COLUMNS, "attributes"].join(", ");

/** A page that the site has no more, as a list shows it. */
export interface GonePage extends Pick<ItemRow, "id" | "key" | "kind" | "path" | "name" | "title"> {
  readonly goneAt: string;
  /** The file whose bringing in it went with, and the number of that. */
  readonly file: string;
  readonly import: number;
}

/** Takes pages out of the site, with all that they have. Call it inside a transaction, with a revision of that transaction. */
export function goneMarker(db: Db, importId: number, now: string): (ids: Iterable<number>) => number {
  const move = db.prepare(
    `INSERT INTO gone_items (${COLUMNS}, revision, content_revision, body, hand_texts, hand_extras, gone_at, import_id)
     SELECT ${COLUMNS}, revision, content_revision, (SELECT body FROM bodies WHERE item_id = items.id),
       (SELECT json_group_array(json_array(text, value)) FROM hand_texts WHERE item_id = items.id),
       (SELECT json_group_array(json_array(text, image, value)) FROM hand_extras WHERE item_id = items.id), ?, ?
     FROM items WHERE id = ?`,
  );
  const remove = db.prepare("DELETE FROM items WHERE id = ?");
  const unsearch = db.prepare("DELETE FROM item_search WHERE rowid = ?");
  const noteLast = db.prepare("UPDATE site SET last_item = max(last_item, ?)");
  return (ids) => {
    let gone = 0;
    for (const id of ids) {
      if (move.run(now, importId, id).changes === 0) continue;
      remove.run(id);
      unsearch.run(id);
      noteLast.run(id);
      gone++;
    }
    return gone;
  };
}

/** Puts a page that was gone back as it was, and says whether it was gone. Call it inside a transaction, with a revision of that transaction. */
export function goneReturner(db: Db): (id: number, revision: number) => boolean {
  const move = db.prepare(
    `INSERT INTO items (${COLUMNS}, revision, content_revision) SELECT ${COLUMNS}, @revision, @revision FROM gone_items WHERE id = @id`,
  );
  const body = db.prepare(
    "INSERT INTO bodies (item_id, body) SELECT id, body FROM gone_items WHERE id = ? AND body IS NOT NULL",
  );
  const texts = db.prepare(
    `INSERT INTO hand_texts (item_id, text, value)
     SELECT gone_items.id, json_extract(one.value, '$[0]'), json_extract(one.value, '$[1]') FROM gone_items, json_each(hand_texts) AS one WHERE gone_items.id = ?`,
  );
  const extras = db.prepare(
    `INSERT INTO hand_extras (item_id, text, image, value)
     SELECT gone_items.id, json_extract(one.value, '$[0]'), json_extract(one.value, '$[1]'), json_extract(one.value, '$[2]')
     FROM gone_items, json_each(hand_extras) AS one WHERE gone_items.id = ?`,
  );
  const remove = db.prepare("DELETE FROM gone_items WHERE id = ?");
  const pathOf = db.prepare("SELECT path FROM gone_items WHERE id = ?").pluck();
  const restorePath = pathRestorer(db);
  return (id, revision) => {
    if (move.run({ id, revision }).changes === 0) return false;
    restorePath((pathOf.get(id) as string | null) ?? "");
    for (const part of [body, texts, extras]) part.run(id);
    remove.run(id);
    return true;
  };
}

/** A page that is gone, with what it had. */
export interface GoneItem {
  readonly row: ItemRow;
  readonly body: string;
  readonly hands: Hands;
}

/** Looks a page up among those that are gone: the one that went last, where several had the address. */
export function goneFinder(db: Db): {
  readonly withKey: (kind: Kind, key: string) => GoneItem | undefined;
  readonly at: (path: string) => GoneItem | undefined;
} {
  const byKey = db.prepare(
    "SELECT * FROM gone_items WHERE kind = ? AND key = ? ORDER BY gone_at DESC, id DESC LIMIT 1",
  );
  const byPath = db.prepare("SELECT * FROM gone_items WHERE path = ? ORDER BY gone_at DESC, id DESC LIMIT 1");
  return {
    withKey: (kind, key) => goneItem(byKey.get(kind, key) as GoneRow | undefined),
    at: (path) => goneItem(byPath.get(path) as GoneRow | undefined),
  };
}

interface GoneRow extends ItemRow {
  body: string | null;
  hand_texts: string;
  hand_extras: string;
  gone_at: string;
  import_id: number;
}

function goneItem(found: GoneRow | undefined): GoneItem | undefined {
  if (!found) return undefined;
  const { body, hand_texts, hand_extras, gone_at: _at, import_id: _import, ...row } = found;
  const texts = Object.fromEntries(JSON.parse(hand_texts) as [HandName, string][]);
  const extras = (JSON.parse(hand_extras) as [HandExtra["text"], string, string][]).map(
    ([text, image, value]): HandExtra => ({ text, image, value }),
  );
  return { row, body: body ?? "", hands: { texts, extras } };
}

export function countGone(db: Db): number {
  return db.prepare("SELECT count(*) FROM gone_items").pluck().get() as number;
}

/** The pages that are gone, by their ids in order; with a search those that have each of its words in name, title, address or id. */
export function goneIds(db: Db, search: string): number[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return db.prepare("SELECT id FROM gone_items ORDER BY id").pluck().all() as number[];
  const texts = db.prepare(
    "SELECT id, name || ' ' || title || ' ' || coalesce(path, '') || ' ' || coalesce(key, '') FROM gone_items ORDER BY id",
  );
  const found: number[] = [];
  for (const [id, text] of texts.raw().iterate() as Iterable<[number, string]>) {
    const folded = text.toLowerCase();
    if (words.every((word) => folded.includes(word))) found.push(id);
  }
  return found;
}

/** Pages that are gone by their ids, in the order of these. */
export function listGone(db: Db, ids: readonly number[]): GonePage[] {
  return db
    .prepare(
      `SELECT gone_items.id AS id, gone_items.key AS key, kind, path, name, title, gone_at AS goneAt, coalesce(imports.file, '') AS file,
         import_id AS import
       FROM gone_items LEFT JOIN imports ON imports.id = import_id
       WHERE gone_items.id IN (SELECT value FROM json_each(?)) ORDER BY gone_items.id`,
    )
    .all(JSON.stringify(ids)) as GonePage[];
}

/** The addresses that pages had which are gone. */
export function gonePaths(db: Db, ids: readonly number[]): string[] {
  return db
    .prepare(
      `SELECT DISTINCT path FROM gone_items
       WHERE path IS NOT NULL AND id IN (SELECT value FROM json_each(?)) ORDER BY id`,
    )
    .pluck()
    .all(JSON.stringify(ids)) as string[];
}

/** Whether the site has a page by now that has an id or an address which one that is gone had: that one cannot come back beside it. */
export function placeTaken(db: Db): (id: number) => string | null {
  const taken = db.prepare(
    `SELECT CASE WHEN items.path = gone_items.path THEN 'address' ELSE 'id' END FROM gone_items JOIN items
       ON items.path = gone_items.path OR (items.kind = gone_items.kind AND items.key = gone_items.key)
     WHERE gone_items.id = ? LIMIT 1`,
  );
  return (id) => (taken.pluck().get(id) as string | undefined) ?? null;
}

/** Deletes pages that are gone for good, with what is kept of them; their part in runs stays. */
export function deleteGone(db: Db, ids: readonly number[]): number {
  const remove = db.prepare("DELETE FROM gone_items WHERE id = ?");
  return ids.reduce((sum, id) => sum + remove.run(id).changes, 0);
}
