import { Refusal } from "../../core/refusal";
import { csvLine } from "../../formats/csv-write";
import { type ListedLink } from "../links/link-set";
import { type ListedMove } from "../review/moves-view";
import { csvRecord, MADE_HARMLESS } from "./csv-record";
import { type OutFormat } from "./take-out";

/** So many rows are asked for at a time. */
const PAGE = 10_000;

type Row = Readonly<Record<string, string | number | null>>;

/** A stretch of a list that is taken out. */
interface Stretch<T> {
  readonly rows: readonly T[];
  readonly total: number;
  /** Another one where the list may be another one. */
  readonly version: string;
}

/**
 * A list as lines of a file, asked for a stretch at a time.
 *
 * @throws {Refusal} `stale` where the site changed meanwhile: rows would be missing, or there twice.
 */
export async function* listLines<T>(
  format: OutFormat,
  columns: Readonly<Record<string, (row: T) => string | number | null>>,
  stretchOf: (from: number, count: number) => Promise<Stretch<T>>,
): AsyncGenerator<string> {
  const header = Object.keys(columns);
  if (format === "csv") yield `\ufeff${csvLine([...header, MADE_HARMLESS])}`;
  let first: string | null = null;
  for (let from = 0; ; from += PAGE) {
    const { rows, total, version } = await stretchOf(from, PAGE);
    first ??= version;
    if (version !== first) throw new Refusal("stale", "The site changed while the list was exported. Export it again.");
    for (const row of rows) {
      const record: Row = Object.fromEntries(header.map((name) => [name, columns[name]!(row)]));
      yield format === "csv" ? csvRecord(header, record) : `${JSON.stringify(record)}\n`;
    }
    if (from + rows.length >= total || rows.length === 0) return;
  }
}

export const LINK_COLUMNS: Readonly<Record<string, (link: ListedLink) => string | number | null>> = {
  page: ({ page }) => page.path,
  page_name: ({ page }) => page.name,
  link_text: ({ text }) => text,
  href: ({ href }) => href,
  rel: ({ rel }) => rel,
  findings: ({ findings }) => findings.join(" "),
  leads_to: ({ target, end }) => target?.path ?? end,
  target_name: ({ target }) => target?.name ?? null,
  proposal: ({ proposal }) => proposal,
  in_review: ({ mend }) => mend,
};

export const MOVE_COLUMNS: Readonly<Record<string, (move: ListedMove) => string | number | null>> = {
  kind: ({ kind }) => kind,
  name: ({ name }) => name,
  address: ({ from }) => from,
  new_address: ({ to }) => to,
  included: ({ included }) => (included ? "yes" : "no"),
  reason: ({ reason }) => reason,
  links: ({ cost }) => cost?.links ?? null,
  redirects: ({ cost }) => cost?.redirects ?? null,
};
