import { addressOf, lastSegment } from "../core/addresses/addresses";
import { type HandName, type Hands } from "../core/design/hands";
import { type Target } from "../core/design/import-targets";
import { type Kind, kindIds, kindsByWord, type WithKinds, wordKey } from "../core/design/kinds";
import { textValue } from "../core/proof/items";
import { foldedSpaces } from "../core/text/plain";
import { type ItemColumn, type ItemInput } from "../store/items";
import { handOf, readHandCell } from "./hand-cell";
import { attributeNames, type Mapping } from "./mapping";
import { type RefusedRow, type TableRow } from "./table";

/** So much of a word for a kind is kept. */
const MOST_WORD = 60;
const MOST_CELL = 2_000_000;

/** How a site's files are read. */
export interface ReadingRules {
  /** Whether the query does not belong to an address. */
  readonly dropsQueries: boolean;
  /** Whose kinds the words of a column of kinds name. */
  readonly site: WithKinds;
}

/** What is read of one row, cell by cell. */
interface RowRead {
  key: string | null;
  path: string | null;
  kind: Kind;
  /** The word for a kind that the site has not. */
  unknownKind: string | null;
  body: string | null;
  byHand: HandName[] | null;
  hands: Hands | null;
  readonly columns: Partial<Record<ItemColumn, string>>;
  readonly attributes: Record<string, string>;
}

/** Takes a cell in; says why it cannot. */
type TakeCell = (row: RowRead, cell: string, column: number) => string | null;

function takers(names: readonly string[], { dropsQueries, site }: ReadingRules): Record<Target, TakeCell> {
  const kinds = kindsByWord(site);
  const raw =
    (column: ItemColumn): TakeCell =>
    (row, cell) => {
      row.columns[column] = cell;
      return null;
    };
  const trimmed =
    (column: ItemColumn): TakeCell =>
    (row, cell) => {
      row.columns[column] = cell.trim();
      return null;
    };
  return {
    id: (row, cell) => {
      row.key = foldedSpaces(cell) || null;
      return null;
    },
    address: (row, cell) => {
      if (cell.trim() === "") return null;
      row.path = addressOf(cell, dropsQueries);
      return row.path === null
        ? `“${cell.slice(0, 120)}” is no address; one such as /rope/mooring-line or https://site/rope/mooring-line is`
        : null;
    },
    kind: (row, cell) => {
      if (cell.trim() === "") return null;
      const known = kinds.get(wordKey(cell));
      if (known === undefined) {
        row.unknownKind = cell.trim().slice(0, MOST_WORD);
        return `“${cell.slice(0, 60)}” is no kind of page; there are ${kindIds(site).join(", ")}`;
      }
      row.kind = known;
      return null;
    },
    body: (row, cell) => {
      row.body = cell;
      return null;
    },
    "hand-texts": (row, cell) => {
      if (cell.trim() === "") return null;
      row.hands = readHandCell(cell);
      return row.hands === null ? `“${cell.slice(0, 60)}” is no JSON object of texts by hand` : null;
    },
    "by-hand": (row, cell) => {
      row.byHand = handOf(cell);
      return null;
    },
    "category.path": (row, cell) => {
      row.columns.category_path = cell.split(pathSeparator(cell)).filter(Boolean).join(" › ");
      return null;
    },
    attribute: (row, cell, column) => {
      // As it is in the file: it is cleaned once, when lines read it.
      if (textValue(cell) !== "") row.attributes[names[column]!] = cell.trim();
      return null;
    },
    attributes: (row, cell) => {
      if (cell.trim() === "") return null;
      const record = attributesOf(cell);
      if (record === null) return `“${cell.slice(0, 60)}” is no JSON object of attributes`;
      Object.assign(row.attributes, record);
      return null;
    },
    title: raw("title"),
    description: raw("description"),
    slug: raw("slug"),
    name: trimmed("name"),
    category: trimmed("category"),
    keyword: trimmed("keyword"),
    summary: trimmed("summary"),
    intro: trimmed("intro"),
    author: trimmed("author"),
    published: trimmed("published"),
    updated: trimmed("updated"),
    price: trimmed("price"),
    count: trimmed("count"),
    robots: trimmed("robots"),
    "meta-keywords": trimmed("meta_keywords"),
    canonical: trimmed("canonical"),
    "made-harmless": () => null,
    skip: () => null,
  };
}

/** Makes items of rows; a row that cannot be one is given back with its line and the reason. */
export function rowReader(
  header: readonly string[],
  mapping: Mapping,
  rules: ReadingRules = { dropsQueries: false, site: null },
): (row: TableRow) => ItemInput | RefusedRow {
  const ownNames = attributeNames(header);
  const take = takers(ownNames, rules);
  const spokenOf = ownNames.filter((_, i) => mapping.targets[i] === "attribute");
  const namesHarmless = mapping.targets.indexOf("made-harmless");
  const names = header.map((heading) => heading.trim());
  const givesPath = mapping.targets.includes("category.path") && !mapping.targets.includes("category");
  return ({ line, cells, absent = [] }) => {
    const refuse = (reason: string): RefusedRow => ({ line, reason, content: cells.join(" | ").slice(0, 2000) });
    const row: RowRead = {
      key: null,
      path: null,
      kind: mapping.kind,
      unknownKind: null,
      body: null,
      byHand: null,
      hands: null,
      columns: {},
      attributes: {},
    };
    const harmless = namesHarmless < 0 ? null : new Set((cells[namesHarmless] ?? "").split(" "));
    for (let i = 0; i < mapping.targets.length; i++) {
      const target = mapping.targets[i]!;
      if (target === "skip" || absent.includes(i)) continue;
      // Half of a letter beyond 16 bits, which JSON can hold: the database has no such, and would give another text back.
      const given = (cells[i] ?? "").toWellFormed();
      const cell = harmless?.has(names[i]!) && given.startsWith("'") ? given.slice(1) : given;
      if (cell.length > MOST_CELL)
        return refuse(
          `The cell “${header[i]}” has ${cell.length.toLocaleString("en")} characters; ${MOST_CELL.toLocaleString("en")} are the most`,
        );
      const wrong = take[target](row, cell, i);
      if (wrong !== null)
        return row.unknownKind === null ? refuse(wrong) : { ...refuse(wrong), unknownKind: row.unknownKind };
    }
    const { key, path, kind, body, byHand, hands, columns, attributes } = row;
    if (key === null && path === null)
      return refuse("The row has neither an id nor an address, so its page is unknown");
    if (path !== null) columns.slug ??= lastSegment(path);
    if (givesPath && columns.category_path !== undefined)
      columns.category = columns.category_path.split(" › ").at(-1) ?? "";
    return {
      key,
      kind,
      path,
      columns,
      attributes: Object.keys(attributes).length > 0 ? attributes : null,
      spokenOf: absent.length === 0 ? spokenOf : spokenOf.filter((name) => !absent.includes(ownNames.indexOf(name))),
      body,
      byHand,
      hands,
    };
  };
}

/** What parts the categories of a path: the first of these that stands in it, since a name may hold the others. */
function pathSeparator(path: string): RegExp {
  const sign = ["›", "»", ">", "|", "/"].find((own) => path.includes(own)) ?? "›";
  return new RegExp(`\\s*${sign === "|" ? "\\|" : sign}\\s*`);
}

/** A JSON object of texts; numbers and the like are written as texts. `null` for what is none. */
function attributesOf(json: string): Record<string, string> | null {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    return null;
  }
  if (typeof value !== "object" || value === null || Array.isArray(value)) return null;
  return Object.fromEntries(
    Object.entries(value).map(([name, own]) => [name, typeof own === "string" ? own : JSON.stringify(own)]),
  );
}
