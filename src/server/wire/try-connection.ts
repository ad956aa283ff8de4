import { fieldsOf, readConnection } from "../../core/connection/connection-file";
import { type Json } from "../../core/connection/json";
import { firstPlace, nextPlace } from "../../core/connection/paging";
import { FieldError, readField } from "../../core/connection/record";
import { type Connection } from "../../core/connection/schema";
import { Refusal } from "../../core/refusal";
import { rowReader } from "../../formats/row-reader";
import { type Db } from "../../store/open";
import { siteForFile } from "../exchange/file-kinds";
import { PageExchange, type SentField, type SentPage } from "./page-exchange";
import { RecordRows } from "./record-rows";
import { readSecret } from "./secrets";
import { SiteClient } from "./site-client";
import { recordsOf } from "./walk-list";
import { WireError } from "./wire-error";

/** So many records are shown, and so much of each. */
const MOST_SHOWN = 10;
const MOST_RECORD = 60_000;
/** Who sets a connection up does not wait as long as a run. */
const PATIENCE = { giveUpMinutes: 0.1, timeoutSeconds: 15 };

/** A field of ours, and what a record says of it; `null` where it does not speak of it. */
export interface TriedField {
  readonly name: string;
  readonly text: string | null;
  /** What is wrong with it, in words; `null` for nothing. */
  readonly wrong: string | null;
}

export interface TriedRecord {
  /** As it came, in JSON. */
  readonly json: string;
  readonly fields: readonly TriedField[];
  /** Why it could not come in; `null` where it could. */
  readonly wrong: string | null;
}

/** The first answer of a list, and what is understood of it. */
export interface TriedList {
  readonly url: string;
  readonly records: readonly TriedRecord[];
  readonly count: number;
  /** Where the list goes on; `null` where it ends. */
  readonly next: string | null;
}

export interface TryAsked {
  readonly description: string;
  /** `null`: the one that is kept. */
  readonly secret: string | null;
  readonly kind: string;
}

async function trying<T>(
  database: string,
  { description, secret, kind }: TryAsked,
  signal: AbortSignal,
  work: (client: SiteClient, connection: Connection) => Promise<T>,
): Promise<T> {
  const connection = readConnection(description);
  if (!connection.kinds[kind])
    throw new Refusal(
      "invalid",
      `The description has no list of “${kind}”, only of ${Object.keys(connection.kinds).join(", ")}`,
    );
  const limits = { ...connection.limits, ...PATIENCE };
  const own = secret ?? readSecret(database, connection.base);
  const client = new SiteClient({ ...connection, limits }, { secret: own, signal });
  try {
    return await work(client, connection);
  } finally {
    await client.close();
  }
}

/** Asks for the first records of a kind and says what is understood of them. Nothing is kept. */
export function tryList(db: Db, database: string, asked: TryAsked, signal: AbortSignal): Promise<TriedList> {
  return trying(database, asked, signal, async (client, connection) => {
    const { list } = connection.kinds[asked.kind]!;
    const small = { ...list, limit: Math.min(list.limit, MOST_SHOWN) };
    const place = firstPlace(connection.base, small, null);
    const answer = await client.read(place.url);
    const records = recordsOf(answer.url, answer.body, list.records);
    const read = reader(db, connection, asked.kind);
    const said = { url: answer.url, link: answer.header("link"), body: answer.body };
    const next = nextPlace(connection.base, small, null, place, said, records.length);
    return {
      url: answer.url,
      records: records.slice(0, MOST_SHOWN).map(read),
      count: records.length,
      next: next?.url ?? null,
    };
  });
}

/** What is understood of a record. */
function reader(db: Db, connection: Connection, kind: string): (record: Json) => TriedRecord {
  const rows = new RecordRows(connection);
  const { header, mapping } = rows;
  const site = siteForFile(db, mapping);
  const input = rowReader(header, mapping, { dropsQueries: site.dropQueries, site });
  const rules = Object.entries(fieldsOf(connection, kind));
  return (record) => {
    const { row } = rows.row(kind, record, 1);
    const read = "reason" in row ? row : input(row);
    return {
      json: JSON.stringify(record, null, 2).slice(0, MOST_RECORD),
      fields: rules.map(([name, rule]) => {
        try {
          return { name, text: readField(name, rule, record), wrong: null };
        } catch (error) {
          if (!(error instanceof FieldError)) throw error;
          return { name, text: null, wrong: error.message };
        }
      }),
      wrong: "reason" in read ? read.reason : null,
    };
  };
}

/** A page that was written as it is, and read again. */
export interface TriedWrite {
  readonly page: string;
  /** What was sent, without the secret. */
  readonly sent: { readonly method: string; readonly url: string; readonly body: string };
  /** Whether the page reads as before. */
  readonly isSame: boolean;
  /** What is to be said of it. */
  readonly words: string;
}

/** Writes the title that a page has already, and reads it again: nothing changes on a site that does what is described. */
export function tryWrite(db: Db, database: string, asked: TryAsked, signal: AbortSignal): Promise<TriedWrite> {
  return trying(database, asked, signal, async (client, connection) => {
    const site = siteForFile(db, new RecordRows(connection).mapping);
    const sent: TriedWrite["sent"][] = [];
    const exchange = new PageExchange(client, connection, site, (request) => sent.push(request));
    const { list } = connection.kinds[asked.kind]!;
    const { url } = firstPlace(connection.base, { ...list, limit: 1 }, null);
    const [record] = recordsOf(url, (await client.read(url)).body, list.records);
    if (record === undefined) throw new Refusal("invalid", `The site has no ${asked.kind} to try it on`);
    const { identity } = new RecordRows(connection).row(asked.kind, record, 1);
    const rule = fieldsOf(connection, asked.kind)["title"];
    if (!identity || !rule)
      throw new Refusal("invalid", "The description says neither where the id nor where the title stands");
    const title = readField("title", rule, record) ?? "";
    const values: ReadonlyMap<SentField, string> = new Map([["title", title]]);
    const form = identity.forms.get("title")?.form;
    const page: SentPage = {
      item: 0,
      kind: asked.kind,
      remote: identity.remote,
      before: values,
      after: values,
      forms: new Map(form === undefined ? [] : [["title", form]]),
    };
    await exchange.send(page, await exchange.see(page));
    const again = await exchange.see(page);
    const isSame = again.reads === "after";
    const words = isSame ? "The site took it, and the page reads as before" : again.words;
    return { page: identity.remote, sent: sent.at(-1)!, isSame, words };
  }).catch((error: unknown) => {
    throw error instanceof FieldError ? new WireError("refused", error.message, { cause: error }) : error;
  });
}
