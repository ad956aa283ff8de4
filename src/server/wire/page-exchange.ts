import { fieldsOf } from "../../core/connection/connection-file";
import { filled, namesIn } from "../../core/connection/fill";
import { type Json } from "../../core/connection/json";
import { valueAt } from "../../core/connection/places";
import { type FieldValue, type FieldValues, needsRecord, patchOf, withFields } from "../../core/connection/record";
import { type BatchRule, type Connection, type Fields, type WriteRule } from "../../core/connection/schema";
import { expanded } from "../../core/connection/uri";
import { type Site } from "../../core/design/design";
import { rowReader } from "../../formats/row-reader";
import { type ItemInput } from "../../store/items";
import { etagIn, RecordRows } from "./record-rows";
import { jsonOf, type SiteAnswer, type SiteClient } from "./site-client";
import { WireError } from "./wire-error";

/** Fields of ours that go out. */
export const SENT_FIELDS = [
  "address",
  "slug",
  "title",
  "description",
  "robots",
  "meta-keywords",
  "canonical",
  "body",
] as const;
export type SentField = (typeof SENT_FIELDS)[number];

/** A page whose change goes out: what its fields are to be, and what they were. */
export interface SentPage {
  readonly item: number;
  readonly kind: string;
  readonly remote: string;
  readonly before: ReadonlyMap<SentField, string>;
  readonly after: ReadonlyMap<SentField, string>;
  /** What of `after` is to stand there exactly so. */
  readonly forms: ReadonlyMap<SentField, string>;
}

/** A page as the site has it. */
export interface SeenPage {
  /** The version that it has, for `If-Match`. */
  readonly etag: string | null;
  /** The whole record; `null` where it was not read. */
  readonly record: Json | null;
}

/** What a page that was read says: what was to be sent, what was there before, or something else, in words. */
export interface Reading {
  readonly reads: "before" | "after" | "other";
  /** Where it is something else. */
  readonly words: string;
  /** Whether the page is at the address where it was to go. */
  readonly isMoved: boolean;
}

/** What of each field is said when it is another by now. */
const FIELD_WORDS: Readonly<Record<SentField, string>> = {
  address: "address was",
  slug: "slug was",
  title: "title was",
  description: "description was",
  robots: "robots setting was",
  "meta-keywords": "meta keywords were",
  canonical: "canonical was",
  body: "body was",
};
const MOST_SHOWN = 80;

/** Reads and writes single pages over an interface, as its description says. */
export class PageExchange {
  private readonly rows: RecordRows;
  private readonly read;

  /** @param site whose addresses and kinds the pages are of. @param told of each single change that is sent, before it is. */
  constructor(
    private readonly client: SiteClient,
    private readonly connection: Connection,
    site: Pick<Site, "dropQueries" | "kinds">,
    private readonly told: (request: { method: string; url: string; body: string }) => void = () => {},
  ) {
    this.rows = new RecordRows(connection);
    const { header, mapping } = this.rows;
    this.read = rowReader(header, mapping, { dropsQueries: site.dropQueries, site });
  }

  get write(): WriteRule {
    const { write } = this.connection;
    if (!write) throw new WireError("refused", "The connection does not say how pages are written");
    return write;
  }

  /** Whether a page has to be read before it is written, for all that is known of it. */
  needsReading({ kind, after }: SentPage, etag: string | null): boolean {
    const { body, unchanged } = this.write;
    if (body === "record" || unchanged?.by !== "etag" || etag === null) return true;
    // A version that goes back in a body goes as it stands in the record, a number as a number.
    if (body !== "patch") return namesIn(body).includes("etag");
    return needsRecord(fieldsOf(this.connection, kind), [...after.keys()]);
  }

  /** Asks for a page as the site has it. @throws {WireError} */
  async see(page: SentPage): Promise<SeenPage & Reading> {
    const rule = this.connection.read;
    if (!rule) throw new WireError("refused", "The connection does not say how one page is read");
    const url = expanded(this.connection.base, rule.url, { id: page.remote });
    const answer = await this.client.ask({ method: "GET", url });
    const record = valueAt(jsonOf(answer), rule.record);
    if (record === undefined) throw new WireError("rubbish", `${url} has nothing at ${rule.record}`);
    const etag = answer.header("etag") ?? etagIn(this.connection, record);
    return { etag, record, ...this.reading(page, record, url) };
  }

  /** Sends a page’s change. @throws {WireError} @throws {FieldError} where it has no place in the record. */
  async send(
    page: SentPage,
    seen: SeenPage,
  ): Promise<{ readonly etag: string | null; readonly reading: Reading | null }> {
    const { method, url: template, body } = this.write;
    const url = expanded(this.connection.base, template, { id: page.remote });
    this.requireVersion(seen);
    const values = this.values(page);
    const fields = fieldsOf(this.connection, page.kind);
    const sent =
      body === "record"
        ? withFields(fields, seen.record ?? {}, values)
        : body === "patch"
          ? patchOf(fields, baseOf(fields, seen, values), values)
          : (filled(body, this.named(page, seen, values)) ?? {});
    this.told({ method, url, body: JSON.stringify(sent, null, 2) });
    const answer = await this.client.ask({ method, url, headers: this.condition(seen), body: sent });
    const record = recordIn(answer);
    const isPage = record !== null && this.isOf(page, record);
    return {
      etag: answer.header("etag") ?? (isPage ? etagIn(this.connection, record) : null),
      reading: isPage ? this.reading(page, record, url) : null,
    };
  }

  /** Sends changes of several pages at once. @returns for each what the site says of it. @throws {WireError} */
  async sendTogether(
    batch: BatchRule,
    pages: readonly { readonly page: SentPage; readonly seen: SeenPage }[],
  ): Promise<readonly { readonly status: number; readonly etag: string | null; readonly said: Json }[]> {
    const url = expanded(this.connection.base, batch.url, {});
    const items = pages.map(({ page, seen }) => {
      const fields = fieldsOf(this.connection, page.kind);
      const values = this.values(page);
      const changes = patchOf(fields, baseOf(fields, seen, values), values);
      const named = this.named(page, seen, values);
      return filled(batch.item, new Map([...named, ["changes", changes]])) ?? null;
    });
    const body = filled(batch.body, new Map<string, Json>([["list", items]])) ?? items;
    const answer = await this.client.ask({ method: batch.method, url, body });
    const results = valueAt(jsonOf(answer), batch.results);
    if (!Array.isArray(results) || results.length !== pages.length)
      throw new WireError("rubbish", `${url} does not answer with ${pages.length} results at ${batch.results}`);
    return results.map((said) => {
      const status = valueAt(said, batch.status);
      if (typeof status !== "number")
        throw new WireError("rubbish", `${url} has a result without a status at ${batch.status}`);
      const etag = batch.etag === undefined ? undefined : valueAt(said, batch.etag);
      return { status, etag: typeof etag === "string" ? etag : null, said };
    });
  }

  /** Why a page’s change cannot be written at all, in words; `null` where it can. */
  unwritable({ kind, after }: SentPage): string | null {
    const fields = fieldsOf(this.connection, kind);
    const missing = [...after.keys()].find((name) => fields[name] === undefined && this.isNeeded(name, fields));
    return missing === undefined
      ? null
      : `The connection does not say where the site has the ${missing.replace("-", " ")}`;
  }

  /** A slug is the end of an address: one of them is enough. */
  private isNeeded(name: SentField, fields: Readonly<Record<string, unknown>>): boolean {
    if (name === "slug") return fields["address"] === undefined;
    return name !== "address" || fields["slug"] === undefined;
  }

  private values({ kind, after, forms }: SentPage): FieldValues {
    const fields = fieldsOf(this.connection, kind);
    return new Map(
      [...after].flatMap(([name, value]): [string, FieldValue][] => {
        if (fields[name] === undefined) return [];
        const form = forms.get(name);
        return [[name, form === undefined ? value : { form }]];
      }),
    );
  }

  private named({ remote }: SentPage, { etag, record }: SeenPage, values: FieldValues): ReadonlyMap<string, Json> {
    const at = this.write.unchanged?.at;
    const version = record !== null && at !== undefined ? (valueAt(record, at) ?? etag) : etag;
    const texts = [...values].map(([name, value]) => [name, typeof value === "string" ? value : value.form] as const);
    return new Map<string, Json>([...texts, ["id", remote], ...(version === null ? [] : [["etag", version] as const])]);
  }

  private condition({ etag }: SeenPage): Record<string, string> {
    return this.write.unchanged?.by === "etag" && etag !== null ? { "if-match": etag } : {};
  }

  /** A version that goes back with the record has to be in it: without it a change in between would be overwritten unseen. */
  private requireVersion({ record }: SeenPage): void {
    const { unchanged } = this.write;
    if (unchanged?.by !== "field" || (record !== null && valueAt(record, unchanged.at) !== undefined)) return;
    throw new WireError(
      "refused",
      `The record has no version at ${unchanged.at}, so a change in between would not be noticed`,
    );
  }

  private isOf({ kind, remote }: SentPage, record: Json): boolean {
    return this.rows.row(kind, record, 1).identity?.remote === remote;
  }

  private reading(page: SentPage, record: Json, url: string): Reading {
    const { row } = this.rows.row(page.kind, record, 1);
    const input = "reason" in row ? row : this.read(row);
    if ("reason" in input) throw new WireError("rubbish", `${url} is no page as the description says: ${input.reason}`);
    // Only what is written is compared; of a text that the record leaves out the site has none.
    const fields = fieldsOf(this.connection, page.kind);
    const names = [...page.after.keys()].filter((name) => fields[name] !== undefined);
    const isMoved = page.after.has("address") && valueOf(input, "address") === page.after.get("address");
    if (names.every((name) => valueOf(input, name) === page.after.get(name)))
      return { reads: "after", words: "", isMoved };
    // Half of it there, as of a site that writes field by field, is sent again whole.
    const other = names.find((name) => {
      const now = valueOf(input, name);
      return now !== page.before.get(name) && now !== page.after.get(name);
    });
    if (other === undefined) return { reads: "before", words: "", isMoved };
    const now = valueOf(input, other);
    return {
      reads: "other",
      isMoved,
      words: `The ${FIELD_WORDS[other]} changed on the site meanwhile; it now reads “${now.slice(0, MOST_SHOWN)}”`,
    };
  }
}

/** The record that a patch is made from, where it has to be known: what is in lists goes whole. */
function baseOf(fields: Fields, { record }: SeenPage, values: FieldValues): Json | null {
  return needsRecord(fields, [...values.keys()]) ? record : null;
}

/** What a page that was read has in a field; `""` where the record does not speak of it. */
function valueOf({ path, columns, body }: ItemInput, name: SentField): string {
  if (name === "address") return path ?? "";
  if (name === "body") return body ?? "";
  return (name === "meta-keywords" ? columns.meta_keywords : columns[name]) ?? "";
}

/** The record that an answer to a change gives back; `null` for an answer without one. */
function recordIn(answer: SiteAnswer): Json | null {
  if (answer.text.trim() === "") return null;
  return jsonOf(answer);
}
