import { type Connection } from "../../core/connection/schema";
import { namesVariable } from "../../core/connection/uri";
import { type Site } from "../../core/design/design";
import { type ByHandChoice } from "../../core/infer/by-hand";
import { type RefusedRow, type TableRow } from "../../formats/table";
import { type Db } from "../../store/open";
import { lastLook, wireFormWriter, wirePageWriter, writeLook } from "../../store/wire";
import { type BringOptions, bringRows, type ImportProgress } from "../exchange/bring-in";
import { siteForFile } from "../exchange/file-kinds";
import { type Foreseen, foreseeRows, type ForeseeOptions } from "../exchange/foresee";
import { type ImportRow, importRows } from "../exchange/import-rows";
import { type RecordIdentity, RecordRows } from "./record-rows";
import { type SiteClient } from "./site-client";
import { walkList } from "./walk-list";

/** Clocks differ, and what was being written when it was asked may be older than the answer: so much is asked for twice. */
const OVERLAP_MS = 2 * 60_000;

/** How the live site is looked at. */
export interface LookAsked {
  readonly connection: Connection;
  /**
   * Everything, not only what changed since the last look: pages that are not there are gone then. The first look asks for everything,
   * too, and calls no page gone: it may be that those here came from a file.
   */
  readonly isFull: boolean;
  readonly byHand: ByHandChoice;
}

/** The records of all kinds as rows, and who each is. */
class Records {
  readonly rows: RecordRows;
  /** By line, of rows that are not in yet. */
  private readonly identities = new Map<number, RecordIdentity>();
  private readonly met = new Map<string, Set<string>>();
  private line = 0;
  /** When the site was asked first, ISO 8601. */
  askedAt: string | null = null;

  constructor(
    private readonly client: SiteClient,
    private readonly connection: Connection,
    /** Only what changed after that. */
    private readonly since: string | null,
    private readonly now: () => string,
  ) {
    this.rows = new RecordRows(connection);
  }

  async *table(): AsyncGenerator<readonly (TableRow | RefusedRow)[]> {
    for (const kind of Object.keys(this.connection.kinds)) {
      const { url } = this.connection.kinds[kind]!.list;
      const since = this.since !== null && namesVariable(url, "since") ? this.since : null;
      const met = new Set<string>();
      this.met.set(kind, met);
      for await (const { records, date } of walkList(this.client, this.connection, kind, since)) {
        this.askedAt ??= date === null ? this.now() : new Date(date).toISOString();
        yield records.flatMap((record) => {
          const { row, identity } = this.rows.row(kind, record, this.line + 1);
          // A list that grows while it is walked gives a record twice.
          if (identity && met.has(identity.remote)) return [];
          this.line++;
          if (identity) met.add(identity.remote);
          if (identity) this.identities.set(row.line, identity);
          return [row];
        });
      }
    }
  }

  /** Who the record of a row is, told once. */
  take(line: number): RecordIdentity | null {
    const identity = this.identities.get(line) ?? null;
    this.identities.delete(line);
    return identity;
  }
}

/**
 * Looks at the live site over its interface and brings in what is there, as rows of a file come in.
 *
 * @throws {WireError} where the site does not answer as the description says; what is in by then stays.
 */
export async function lookAtSite(
  db: Db,
  client: SiteClient,
  { connection, isFull, byHand }: LookAsked,
  options: BringOptions,
): Promise<ImportProgress & { status: "done" | "stopped" }> {
  const records = new Records(client, connection, isFull ? null : sinceLast(db), options.now);
  const { header, mapping } = records.rows;
  const note = identityWriter(db, records);
  const isWhole = isFull || lastLook(db) === null;
  const source = {
    name: connection.name,
    header,
    rows: (site: Site) => importRows(db, records.table(), header, mapping, site),
    brought: note,
    ...(isFull && { kinds: Object.keys(connection.kinds) }),
  };
  const result = await bringRows(db, source, { mapping, byHand, areAll: isFull }, options);
  if (result.status === "done")
    writeLook(db, {
      import: result.import,
      isFull: isWhole,
      askedAt: records.askedAt ?? options.now(),
      endedAt: options.now(),
    });
  return result;
}

/** What looking at the live site would bring in; nothing is written. */
export function foreseeSite(
  db: Db,
  client: SiteClient,
  { connection, isFull }: Pick<LookAsked, "connection" | "isFull">,
  options: ForeseeOptions & { readonly now: () => string },
): Promise<Foreseen> {
  const records = new Records(client, connection, isFull ? null : sinceLast(db), options.now);
  const { header, mapping } = records.rows;
  return foreseeRows(db, importRows(db, records.table(), header, mapping, siteForFile(db, mapping)), options);
}

/** What changed after that is asked for. */
function sinceLast(db: Db): string | null {
  const last = lastLook(db);
  return last && new Date(Date.parse(last.askedAt) - OVERLAP_MS).toISOString();
}

/** Writes down what the interface calls pages that are in, and in which forms it has their values. */
function identityWriter(db: Db, records: Records): (rows: readonly ImportRow[]) => void {
  const idOf = db.prepare("SELECT id FROM items WHERE kind = ? AND key = ?").pluck();
  const put = wirePageWriter(db);
  const putForm = wireFormWriter(db);
  return (rows) => {
    for (const { line, item } of rows) {
      if ("reason" in item || item.key === null) continue;
      const id = idOf.get(item.kind, item.key) as number | undefined;
      // One that is not in yet comes when all rows are: its address is another page’s now.
      const identity = id === undefined ? null : records.take(line);
      if (id === undefined || identity === null) continue;
      put(id, identity);
      for (const [field, { reading, form }] of identity.forms) putForm(id, field, reading, form);
    }
  };
}
