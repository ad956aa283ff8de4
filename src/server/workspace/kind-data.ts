import { type Site, siteConstants, writingOf } from "../../core/design/design";
import { type Kind, PAGE_EXTRAS, type PageExtra, type TextName, TEXTS } from "../../core/design/kinds";
import { BUILT_IN_NAMES, fieldName } from "../../core/lines/fields";
import { type Place } from "../../core/items/category-tree";
import { folderOf } from "../../core/addresses/addresses";
import { type Column, ColumnWriter, constantColumn, ItemSet, textValue } from "../../core/proof/items";
import { type Db } from "../../store/open";
import {
  countOfKind,
  type HandExtra,
  handExtras,
  ITEM_COLUMNS,
  iterateBodies,
  iterateColumns,
  iterateHandTexts,
  pageExtras,
  readBody,
  readItem,
  type ColumnChunk,
  type TouchedItem,
} from "../../store/items";
import { FieldTally, tallyOf } from "./field-tally";
import { type KindTree } from "./kind-tree";
import { settingsUsed } from "./settings-used";
import { arePlain } from "../../core/text/plain";

/** A kind's items held column by column, with what the site has of them, as they were at a revision of the site's items. */
export class KindData {
  constructor(
    readonly kind: Kind,
    /** The revision at which they were like this; later ones may have left them as they were. */
    readonly revision: number,
    /** The items' ids, rising. */
    readonly ids: Int32Array,
    readonly paths: readonly string[],
    readonly folders: Column,
    readonly live: Readonly<Record<TextName, readonly string[]>>,
    /** What is set by hand, by row. */
    readonly hands: Readonly<Record<TextName | "robots" | PageExtra, ReadonlyMap<number, string>>>,
    /** What a person wrote of images, by row, then by the image's address as it stands in the body. */
    readonly altHands: ReadonlyMap<number, ReadonlyMap<string, string>>,
    readonly items: ItemSet,
    /** Every field that some item or the site has, the body included. */
    readonly fieldNames: readonly string[],
    private readonly source: {
      readonly db: Db;
      readonly site: Site;
      readonly tallies: Map<string, FieldTally>;
      /** Left out until they are first asked for: most sites have none. */
      readonly pageExtras: Map<PageExtra, readonly string[]>;
    },
  ) {}

  /** Another one where the items, or the settings that they were loaded with, are. */
  get stamp(): string {
    return `${settingsUsed.items(this.source.site, this.kind)} ${this.revision}`;
  }

  /** The same object for all that came of one loading: rows, names, bodies and most fields are the same in them. */
  get loading(): object {
    return this.ids.buffer;
  }

  /** What the site has of an extra text, by row. */
  pageExtra(extra: PageExtra): readonly string[] {
    let values = this.source.pageExtras.get(extra);
    if (!values) this.source.pageExtras.set(extra, (values = this.readExtra(extra)));
    return values;
  }

  private readExtra(extra: PageExtra): readonly string[] {
    const values = new Array<string>(this.ids.length).fill("");
    for (const [id, value] of pageExtras(this.source.db, this.kind, extra)) {
      const row = this.rowOf(id);
      if (row >= 0) values[row] = value;
    }
    return values;
  }

  /** What a field's values are like, without bringing the field in where it is not in already. */
  tally(field: string): FieldTally {
    let tally = this.source.tallies.get(field);
    if (!tally) this.source.tallies.set(field, (tally = tallyOf(this.items.column(field), this.items.formatOf(field))));
    return tally;
  }

  /** One item's fields by name, those without a value left out; those that are not in memory are read from the database, and not brought in for it. */
  fieldsOf(row: number, body: boolean): Record<string, string> {
    // Fields go by whatever name a file gave them, `__proto__` too.
    const fields = Object.create(null) as Record<string, string>;
    const keep = (field: string, value: string) => {
      if (value !== "") fields[field] = value;
    };
    // What is in memory was cleaned when it came in, and is not cleaned again.
    const put = (field: string, raw: unknown) => keep(field, textValue(raw));
    const item = readItem(this.source.db, this.ids[row]!);
    for (const field of this.fieldNames) {
      if (field === "body") continue;
      if (this.items.holds(field)) keep(field, this.items.value(field, row));
      else if (field === "category.parent") keep(field, parentOf(this.items.value("category.path", row)));
      else if (item) put(field, item[(COLUMN_OF[field] ?? field) as keyof typeof item]);
    }
    for (const [field, value] of siteConstants(this.source.site)) put(field, value);
    if (body) put("body", readBody(this.source.db, this.ids[row]!));
    return fields;
  }

  /**
   * The kind's items with what changed of some of them, where that is no more than texts, keyword, robots setting and
   * address; these here stay as they are.
   *
   * @returns with the rows and the fields that changed; `null` where the kind has to be loaded anew.
   */
  refreshed(touched: readonly TouchedItem[], revision: number): RefreshedKind | null {
    const rows = touched.map(({ id }) => this.rowOf(id));
    if (rows.some((row, i) => row < 0 || folderOf(touched[i]!.path ?? "") !== this.folder(row))) return null;
    const paths = this.paths.slice();
    const live = copiedEach(this.live, (texts): string[] => texts.slice());
    const hands = copiedEach(this.hands, (values): Map<number, string> => new Map(values));
    const altHands = new Map(this.altHands);
    const extras = [...this.source.pageExtras].map(([extra, values]) => [extra, values.slice()] as const);
    touched.forEach((item, i) => {
      const row = rows[i]!;
      for (const [extra, values] of extras) values[row] = item[PAGE_EXTRAS[extra]];
      paths[row] = item.path ?? "";
      for (const text of TEXTS) live[text][row] = item[text];
      for (const values of Object.values(hands)) values.delete(row);
      for (const { text, value } of item.hands) hands[text].set(row, value);
      altHands.delete(row);
      for (const extra of item.handExtras) putExtra({ hands, altHands }, row, extra);
    });
    const fields = new Set<string>();
    const tallies = new Map(this.source.tallies);
    let { items } = this;
    for (const field of ["keyword", "robots", "slug"] as const) {
      const values = touched.map((item) => textValue(item[field]));
      const changed = items.withValues(field, rows, values);
      // Where the column is not in memory nothing was made of it, but what was counted may no longer hold.
      if (changed || !items.holds(field)) tallies.delete(field);
      if (changed) fields.add(field);
      items = changed ?? items;
    }
    const source = { ...this.source, tallies, pageExtras: new Map(extras) };
    const { kind, ids, folders, fieldNames } = this;
    return {
      data: new KindData(kind, revision, ids, paths, folders, live, hands, altHands, items, fieldNames, source),
      rows,
      fields,
    };
  }

  /** The row of an item's id, -1 for one that is not of this kind. */
  rowOf(id: number): number {
    return rowOf(this.ids, id);
  }

  /** The folder that the row's page is in, with a slash at its end. */
  folder(row: number): string {
    return this.folders.table.values[this.folders.codes[row]!]!;
  }
}

/** A kind's items after some of them changed: their rows, and the fields that did. */
export interface RefreshedKind {
  readonly data: KindData;
  readonly rows: readonly number[];
  readonly fields: ReadonlySet<string>;
}

/** Puts an extra text by hand among a kind's. */
function putExtra(
  to: {
    readonly hands: Readonly<Record<PageExtra, Map<number, string>>>;
    readonly altHands: Map<number, ReadonlyMap<string, string>>;
  },
  row: number,
  { text, image, value }: HandExtra,
): void {
  if (text !== "alt") to.hands[text].set(row, value);
  else to.altHands.set(row, new Map([...(to.altHands.get(row) ?? []), [image, value]]));
}

function copiedEach<K extends string, T, C>(of: Readonly<Record<K, T>>, copy: (value: T) => C): Record<K, C> {
  return Object.fromEntries(Object.entries<T>(of).map(([key, value]) => [key, copy(value)])) as Record<K, C>;
}

/** Where an id stands among rising ones, -1 where it does not. */
function rowOf(ids: Int32Array, id: number): number {
  let low = 0;
  let high = ids.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    if (ids[middle] === id) return middle;
    if (ids[middle]! < id) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}

const COLUMN_OF: Record<string, string> = {
  "category.path": "category_path",
  "category.parent": "category_path",
  id: "key",
};
/** Fields that nearly every line and rule uses: brought in with the items, in one go. */
const AT_ONCE = ["name", "category", "category_path", "keyword", "intro", "robots"] as const;
/** Fields that are only counted as they go by. */
const COUNTED = ["key", "summary", "slug", "author", "published", "updated", "price", "count"] as const;
const FIELD_OF: Partial<Record<string, string>> = { category_path: "category.path", key: "id" };
/** What of an item is held as it is. */
const RAW = ["id", "path", "title", "description", "slug", "attributes"] as const;

/**
 * Loads a kind's items. Fields that lines seldom use are brought in when one first does.
 *
 * @param progress told how much of the whole is in, from 0 to 1.
 */
export function loadKind(
  db: Db,
  kind: Kind,
  { site, revision, tree }: { readonly site: Site; readonly revision: number; readonly tree: KindTree | null },
  progress?: (done: number) => void,
): KindData {
  const total = countOfKind(db, kind);
  const ids = new Int32Array(total);
  const paths = new Array<string>(total);
  const live = {
    title: new Array<string>(total),
    description: new Array<string>(total),
    slug: new Array<string>(total),
  };
  const folders = new ColumnWriter(total);
  const common = AT_ONCE.map(() => new ColumnWriter(total));
  const counted = COUNTED.map((column) => new FieldTally(site.formats[kind]?.[FIELD_OF[column] ?? column]));
  const attributes = new AttributeColumns(total);
  let row = 0;
  for (const chunk of iterateColumns(db, kind, [...RAW, ...AT_ONCE, ...COUNTED])) {
    const [chunkIds, chunkPaths, titles, descriptions, slugs, json] = RAW.map((_, place) => chunk.column(place).values);
    for (let i = 0; i < chunk.size; i++) {
      ids[row + i] = Number(chunkIds![i]);
      paths[row + i] = chunkPaths![i]!;
      live.title[row + i] = titles![i]!;
      live.description[row + i] = descriptions![i]!;
      live.slug[row + i] = slugs![i]!;
      folders.set(row + i, folderOf(chunkPaths![i]!));
      attributes.read(row + i, json![i]!);
    }
    common.forEach((writer, place) => writeColumn(writer, row, chunk.column(RAW.length + place)));
    counted.forEach((tally, place) => {
      for (const value of chunk.column(RAW.length + AT_ONCE.length + place).values) tally.see(value);
    });
    row += chunk.size;
    progress?.(row / total);
  }
  if (tree && !tree.tree.isEmpty)
    placeItems(tree, ids, common[AT_ONCE.indexOf("category")]!, common[AT_ONCE.indexOf("category_path")]!);
  const hands = {
    title: new Map<number, string>(),
    description: new Map<number, string>(),
    slug: new Map<number, string>(),
    robots: new Map<number, string>(),
    keywords: new Map<number, string>(),
    canonical: new Map<number, string>(),
  };
  const altHands = new Map<number, ReadonlyMap<string, string>>();
  for (const hand of iterateHandTexts(db, kind)) {
    const at = rowOf(ids, hand.id);
    if (at >= 0) hands[hand.text].set(at, hand.value);
  }
  for (const extra of handExtras(db, kind)) putExtra({ hands, altHands }, rowOf(ids, extra.id), extra);

  const constants = siteConstants(site);
  const loaded = attributes.columns();
  AT_ONCE.forEach((name, i) => loaded.set(name === "category_path" ? "category.path" : name, common[i]!.column()));
  const fieldNames = [...new Set([...BUILT_IN_NAMES, ...loaded.keys()])];
  const load = (field: string): Column | null => {
    const constant = constants.get(field);
    if (constant !== undefined) return constantColumn(total, textValue(constant));
    const known = loaded.get(field);
    if (known) return known;
    if (field === "body") return bodyColumn(db, kind, ids);
    const column = COLUMN_OF[field] ?? field;
    if (column !== "key" && !(ITEM_COLUMNS as readonly string[]).includes(column)) return null;
    const writer = new ColumnWriter(total);
    let at = 0;
    const change = field === "category.parent" ? parentOf : null;
    for (const chunk of iterateColumns(db, kind, [column])) {
      // No two pages of a kind have one key.
      if (column === "key") chunk.column(0).values.forEach((key, i) => writer.setAlone(at + i, textValue(key)));
      else writeColumn(writer, at, chunk.column(0), change);
      at += chunk.size;
    }
    return writer.column();
  };
  const items = new ItemSet(
    total,
    { writing: writingOf(site), formats: site.formats[kind] ?? {}, load, fields: fieldNames },
    loaded,
  );
  const tallies = new Map<string, FieldTally>(COUNTED.map((column, i) => [FIELD_OF[column] ?? column, counted[i]!]));
  return new KindData(kind, revision, ids, paths, folders.column(), live, hands, altHands, items, fieldNames, {
    db,
    site,
    tallies,
    pageExtras: new Map(),
  });
}

/** Puts items where their categories stand as pages; those that are in none stay where they say they are. */
function placeItems({ tree, isOwn }: KindTree, ids: Int32Array, category: ColumnWriter, path: ColumnWriter): void {
  const put = (row: number, place: Place | null) => {
    if (!place) return;
    category.set(row, place.category);
    path.set(row, place.path);
  };
  if (isOwn) {
    ids.forEach((id, row) => put(row, tree.placeOf(id)));
    return;
  }
  const known = new Map<string, Place | null>();
  for (let row = 0; row < ids.length; row++) {
    const said = `${category.codes[row]} ${path.codes[row]}`;
    let place = known.get(said);
    if (place === undefined)
      known.set(said, (place = tree.place({ category: category.valueAt(row), path: path.valueAt(row) })));
    put(row, place);
  }
}

/** Writes a chunk's values as plain text into a column, from a row on. */
function writeColumn(
  writer: ColumnWriter,
  from: number,
  { values, together }: ReturnType<ColumnChunk["column"]>,
  change: ((value: string) => string) | null = null,
): void {
  const isPlain = arePlain(together);
  for (let i = 0; i < values.length; i++) {
    const value = isPlain ? values[i]! : textValue(values[i]!);
    writer.set(from + i, change ? change(value) : value);
  }
}

/** @example parentOf("Rope › Twine › Waxed twine") // "Twine" */
function parentOf(path: string): string {
  const parts = path.split(" › ");
  return parts.length > 1 ? parts[parts.length - 2]! : "";
}

function bodyColumn(db: Db, kind: Kind, ids: Int32Array): Column {
  const writer = new ColumnWriter(ids.length);
  for (const { id, body } of iterateBodies(db, kind)) {
    const row = rowOf(ids, id);
    if (row >= 0) writer.set(row, textValue(body));
  }
  return writer.column();
}

/** So many different sets of attributes are remembered while items are read. */
const MOST_PARSED = 50_000;

/** The attributes that items brought along, gathered as they are read. */
class AttributeColumns {
  private readonly writers = new Map<string, ColumnWriter>();
  private readonly names = new Map<string, string>();
  /** What was made of attributes that stand on many items. */
  private readonly parsed = new Map<string, readonly (readonly [ColumnWriter, number])[]>();

  constructor(private readonly total: number) {}

  read(row: number, json: string): void {
    if (json === "{}") return;
    let parsed = this.parsed.get(json);
    if (!parsed) {
      parsed = Object.entries(JSON.parse(json) as Record<string, string>).map(([key, value]) => {
        const writer = this.writerOf(key);
        return [writer, writer.code(textValue(value))];
      });
      if (this.parsed.size < MOST_PARSED) this.parsed.set(json, parsed);
    }
    for (let i = 0; i < parsed.length; i++) parsed[i]![0].codes[row] = parsed[i]![1];
  }

  private writerOf(key: string): ColumnWriter {
    let field = this.names.get(key);
    if (field === undefined) this.names.set(key, (field = fieldName(key)));
    let writer = this.writers.get(field);
    if (!writer) this.writers.set(field, (writer = new ColumnWriter(this.total)));
    return writer;
  }

  columns(): Map<string, Column> {
    return new Map([...this.writers].map(([name, writer]) => [name, writer.column()]));
  }
}
