import LinkHeader from "http-link-header";
import { type Json } from "./json";
import { valueAt } from "./places";
import { type ListRule } from "./schema";
import { expanded } from "./uri";

/** Where in a list one is: the address that is asked next, and how many pages and records came before. */
export interface ListPlace {
  readonly url: string;
  readonly pages: number;
  readonly records: number;
}

/** What of an answer says how the list goes on. */
export interface ListAnswer {
  readonly url: string;
  readonly link: string | null;
  readonly body: Json;
}

/** The first address of a list. @param since only what was changed after that, ISO 8601; `null` for all. */
export function firstPlace(base: string, list: ListRule, since: string | null): ListPlace {
  return { url: addressOf(base, list, since, { pages: 0, records: 0 }, null), pages: 0, records: 0 };
}

/**
 * Where a list goes on.
 *
 * @param count how many records the answer had.
 * @returns `null` at its end.
 * @throws {Error} in words, where the answer does not say it as the description says.
 */
export function nextPlace(
  base: string,
  list: ListRule,
  since: string | null,
  place: ListPlace,
  answer: ListAnswer,
  count: number,
): ListPlace | null {
  const after = { pages: place.pages + 1, records: place.records + count };
  const url = nextAddress(base, list, since, after, answer, count);
  if (url === null) return null;
  if (url === place.url) throw new Error(`The list leads from ${url} to the same address again`);
  return { url, ...after };
}

function nextAddress(
  base: string,
  list: ListRule,
  since: string | null,
  after: Pick<ListPlace, "pages" | "records">,
  { url, link, body }: ListAnswer,
  count: number,
): string | null {
  switch (list.next.by) {
    case "none":
      return null;
    case "link": {
      const next = linkTo("next", link);
      return next === null ? null : new URL(next, url).href;
    }
    case "cursor": {
      const cursor = valueAt(body, list.next.at);
      if (cursor === undefined || cursor === null || cursor === "") return null;
      if (typeof cursor === "object")
        throw new Error(`${list.next.at} of the answer is no cursor, but a list or an object`);
      const text = String(cursor);
      if (/^https?:\/\//i.test(text)) return text;
      return addressOf(base, list, since, after, text);
    }
    case "page":
    case "offset":
      return count === 0 ? null : addressOf(base, list, since, after, null);
  }
}

function linkTo(rel: string, header: string | null): string | null {
  if (header === null || header.trim() === "") return null;
  try {
    return LinkHeader.parse(header).rel(rel)[0]?.uri ?? null;
  } catch (error) {
    throw new Error(`The Link header of the answer cannot be read: ${header.slice(0, 200)}`, { cause: error });
  }
}

function addressOf(
  base: string,
  list: ListRule,
  since: string | null,
  { pages, records }: Pick<ListPlace, "pages" | "records">,
  cursor: string | null,
): string {
  const first = list.next.by === "page" ? list.next.first : 1;
  return expanded(base, list.url, {
    limit: list.limit,
    since,
    cursor,
    page: list.next.by === "page" ? first + pages : null,
    offset: list.next.by === "offset" ? records : null,
  });
}
