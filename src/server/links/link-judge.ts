import { isElsewhere } from "../../core/addresses/redirect";
import { type RedirectLookup } from "../../core/addresses/redirect-lookup";
import { linkBit } from "../../core/links/finding-names";
import { isFilePath, linkTextKey } from "../../core/links/link-text";
import { pageAt, withOtherEnding } from "../redirects/page-at";
import { type LinkTable } from "./link-table";

/** What the judgement of links rests on. */
export interface JudgedBy {
  readonly lookup: RedirectLookup;
  /** The number of the page at each path. */
  readonly pages: ReadonlyMap<string, number>;
  /** Whether a page’s robots setting keeps it out of results. */
  readonly isUnindexed: (page: number) => boolean;
  /** The number of the page that each link is on, by the item’s. */
  readonly pageOfItem: ReadonlyMap<number, number>;
  readonly pageCount: number;
  /** Texts that say nothing. */
  readonly emptyTexts: readonly string[];
}

/** What was found of every link of a table, and of every page by the links to it. */
export interface JudgedLinks {
  /** By link the number of its page, and of the page that it leads to in the end; -1 for none. */
  readonly from: Int32Array;
  readonly to: Int32Array;
  readonly bits: Uint8Array;
  /** Where each path leads that is not a page’s own, by its code in the table; `null` for nowhere. */
  readonly ends: ReadonlyMap<number, string | null>;
  /** By page, from how many links of other pages it is led to. */
  readonly linksTo: Int32Array;
}

const NONE = -1;

/** Judges every link; each path once. */
export function judgeLinks(table: LinkTable, by: JudgedBy): JudgedLinks {
  const { targets, bits: pathBits, ends } = judgePaths(table, by);
  const from = new Int32Array(table.size);
  const to = new Int32Array(table.size);
  const bits = new Uint8Array(table.size);
  const linksTo = new Int32Array(by.pageCount);
  const said = textsOf(table, by.emptyTexts);
  for (let link = 0; link < table.size; link++) {
    const page = by.pageOfItem.get(table.itemOf(link)) ?? NONE;
    const path = table.paths.codes[link]!;
    const target = targets[path]!;
    from[link] = page;
    to[link] = target;
    bits[link] = pathBits[path]! | (said.empty[table.texts.codes[link]!] === 1 ? linkBit("says-nothing") : 0);
    if (target !== NONE && target !== page) linksTo[target]!++;
  }
  markSameTexts(table, said, { to, bits });
  return { from, to, bits, ends, linksTo };
}

/** By the code of a path: the page that it leads to, and what is found of it. */
function judgePaths({ paths }: LinkTable, { lookup, pages, isUnindexed }: JudgedBy) {
  const { values } = paths.table;
  const targets = new Int32Array(values.length).fill(NONE);
  const bits = new Uint8Array(values.length);
  const ends = new Map<number, string | null>();
  // The first of them is the empty text, that no link leads to.
  for (let code = 1; code < values.length; code++) {
    const { to, by } = lookup.resolve(values[code]!);
    const ending = by === null ? withOtherEnding(pages, values[code]!) : null;
    const page = to === null || to === "" || isElsewhere(to) ? ending?.page : pageAt(pages, to);
    if (page !== undefined) targets[code] = page;
    if (by !== "page") ends.set(code, to === "" ? null : (ending?.path ?? to));
    const leadsOn = by !== "page" && (page !== undefined || (to !== null && to !== "" && isElsewhere(to)));
    if (leadsOn) bits[code]! |= linkBit("redirected");
    else if (page === undefined && !isFilePath(values[code]!)) bits[code]! |= linkBit("broken");
    if (page !== undefined && isUnindexed(page)) bits[code]! |= linkBit("not-indexed");
  }
  return { targets, bits, ends };
}

interface SaidTexts {
  /** By the code of a text: 1 where it says nothing. */
  readonly empty: Uint8Array;
  /** By the code of a text: the number of what it is compared by. */
  readonly keys: Int32Array;
  readonly keyCount: number;
}

function textsOf({ texts }: LinkTable, emptyTexts: readonly string[]): SaidTexts {
  const { values } = texts.table;
  const nothing = new Set(["", ...emptyTexts.map(linkTextKey)]);
  const numbers = new Map<string, number>();
  const empty = new Uint8Array(values.length);
  const keys = Int32Array.from(values, (text, code) => {
    const key = linkTextKey(text);
    empty[code] = nothing.has(key) ? 1 : 0;
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, numbers.size);
    return numbers.size - 1;
  });
  return { empty, keys, keyCount: numbers.size };
}

/** Marks links whose text leads to different pages; texts that say nothing are told anyway. */
function markSameTexts(
  { size, texts }: LinkTable,
  { empty, keys, keyCount }: SaidTexts,
  { to, bits }: Pick<JudgedLinks, "to" | "bits">,
): void {
  const first = new Int32Array(keyCount).fill(NONE);
  const differs = new Uint8Array(keyCount);
  const keyOf = (link: number) => {
    const code = texts.codes[link]!;
    return to[link] === NONE || empty[code] === 1 ? NONE : keys[code]!;
  };
  for (let link = 0; link < size; link++) {
    const key = keyOf(link);
    if (key === NONE) continue;
    if (first[key] === NONE) first[key] = to[link]!;
    else if (first[key] !== to[link]) differs[key] = 1;
  }
  for (let link = 0; link < size; link++) {
    const key = keyOf(link);
    if (key !== NONE && differs[key] === 1) bits[link]! |= linkBit("same-text");
  }
}
