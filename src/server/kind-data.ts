import { type Site, siteConstants } from "../core/design/design";
import { type Kind, type TextName } from "../core/design/kinds";
import { BUILT_IN_NAMES, fieldName } from "../core/lines/fields";
import { folderOf } from "../core/plan/addresses";
import { type Column, ColumnWriter, constantColumn, ItemSet, textValue } from "../core/proof/items";
import { type Db } from "../store/open";
import { ITEM_COLUMNS, iterateBodies, iterateHandTexts, iterateKind } from "../store/items";

/** A kind's items held column by column, with what the site has of them. */
export class KindData {
  revision = 0;
  private readonly rows: Map<number, number>;

  constructor(
    readonly kind: Kind,
    readonly ids: Int32Array,
    readonly paths: readonly string[],
    readonly live: Readonly<Record<TextName, readonly string[]>>,
    readonly hands: Readonly<Record<TextName, ReadonlyMap<number, string>>>,
    readonly items: ItemSet,
    /** Every field that some item or the site has, the body included. */
    readonly fieldNames: readonly string[],
  ) {
    this.rows = new Map();
    ids.forEach((id, row) => this.rows.set(id, row));
  }

  /** The row of an item's id, -1 for one that is not of this kind. */
  rowOf(id: number): number {
    return this.rows.get(id) ?? -1;
  }

  /** The folder that the row's page is in, with a slash at its end. */
  folder(row: number): string {
    return folderOf(this.paths[row]!);
  }
}

/** Whether items of the kind were added, changed or removed since it was loaded. */
export function changedSince(db: Db, kind: Kind, data: KindData): boolean {
  const changed = db.prepare("SELECT 1 FROM items WHERE revision > ? AND kind = ? LIMIT 1").get(data.revision, kind);
  return changed !== undefined || (db.prepare("SELECT count(*) AS count FROM items WHERE kind = ?").get(kind) as { count: number }).count !== data.ids.length;
}

const COLUMN_OF: Record<string, string> = { "category.path": "category_path", "category.parent": "category_path", id: "key" };

/** Loads a kind's items. Fields are brought in when a line first uses them. */
export function loadKind(db: Db, kind: Kind, site: Site, progress?: (done: number) => void): KindData {
  const total = (db.prepare("SELECT count(*) AS count FROM items WHERE kind = ?").get(kind) as { count: number }).count;
  const ids = new Int32Array(total);
  const paths = new Array<string>(total);
  const live = { title: new Array<string>(total), description: new Array<string>(total), slug: new Array<string>(total) };
  let row = 0;
  for (const item of iterateKind<{ id: number; path: string | null; title: string; description: string; slug: string }>(db, kind, ["id", "path", "title", "description", "slug"])) {
    ids[row] = item.id;
    paths[row] = item.path ?? "";
    live.title[row] = item.title;
    live.description[row] = item.description;
    live.slug[row] = item.slug;
    row++;
    if (row % 8192 === 0) progress?.(row / total);
  }
  const rowOf = new Map<number, number>();
  ids.forEach((id, r) => rowOf.set(id, r));
  const hands = { title: new Map<number, string>(), description: new Map<number, string>(), slug: new Map<number, string>() };
  for (const hand of iterateHandTexts(db, kind)) {
    const at = rowOf.get(hand.id);
    if (at !== undefined) hands[hand.text].set(at, hand.value);
  }

  const constants = siteConstants(site);
  const attributes = new Attributes(db, kind, total);
  const load = (field: string): Column | null => {
    const constant = constants.get(field);
    if (constant !== undefined) return constantColumn(total, textValue(constant));
    if (field === "body") return bodyColumn(db, kind, total, rowOf);
    const column = COLUMN_OF[field] ?? field;
    if (column === "key" || (ITEM_COLUMNS as readonly string[]).includes(column)) {
      const writer = new ColumnWriter(total);
      let at = 0;
      for (const item of iterateKind<Record<string, string | null>>(db, kind, [column])) {
        const value = textValue(item[column]);
        writer.set(at++, field === "category.parent" ? parentOf(value) : value);
      }
      return writer.column();
    }
    return attributes.column(field);
  };
  const fieldNames = [...new Set([...BUILT_IN_NAMES, ...attributes.names()])];
  const items = new ItemSet(total, { locale: site.language, load, fields: fieldNames });
  return new KindData(kind, ids, paths, live, hands, items, fieldNames);
}

/** @example parentOf("Rope › Twine › Waxed twine") // "Twine" */
function parentOf(path: string): string {
  const parts = path.split(" › ");
  return parts.length > 1 ? parts[parts.length - 2]! : "";
}

function bodyColumn(db: Db, kind: Kind, total: number, rowOf: ReadonlyMap<number, number>): Column {
  const writer = new ColumnWriter(total);
  for (const { id, body } of iterateBodies(db, kind)) {
    const row = rowOf.get(id);
    if (row !== undefined) writer.set(row, textValue(body));
  }
  return writer.column();
}

/** The attributes that items brought along; read in one go when the first is asked for. */
class Attributes {
  private columns: Map<string, ColumnWriter> | null = null;

  constructor(
    private readonly db: Db,
    private readonly kind: Kind,
    private readonly total: number,
  ) {}

  names(): string[] {
    return [...this.all().keys()];
  }

  column(field: string): Column | null {
    return this.all().get(field)?.column() ?? null;
  }

  private all(): Map<string, ColumnWriter> {
    if (this.columns) return this.columns;
    this.columns = new Map();
    const fields = new Map<string, string>();
    let row = 0;
    for (const item of iterateKind<{ attributes: string }>(this.db, this.kind, ["attributes"])) {
      if (item.attributes !== "{}") {
        for (const [key, value] of Object.entries(JSON.parse(item.attributes) as Record<string, string>)) {
          let field = fields.get(key);
          if (field === undefined) fields.set(key, (field = fieldName(key)));
          let writer = this.columns.get(field);
          if (!writer) this.columns.set(field, (writer = new ColumnWriter(this.total)));
          writer.set(row, textValue(value));
        }
      }
      row++;
    }
    return this.columns;
  }
}
