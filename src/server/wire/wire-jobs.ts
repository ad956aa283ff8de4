import { readConnection } from "../../core/connection/connection-file";
import { type Connection } from "../../core/connection/schema";
import { type ByHandChoice } from "../../core/infer/by-hand";
import { Refusal } from "../../core/refusal";
import { type Db } from "../../store/open";
import { setRunStatus } from "../../store/runs";
import { readStoredConnection } from "../../store/wire";
import { checkLive, type CheckScope } from "../live/check-live";
import { type Call } from "../threads/call";
import { lookAtSite } from "./look";
import { watchForStop } from "./paced";
import { readSecret } from "./secrets";
import { sendRun } from "./send-run";
import { SiteClient } from "./site-client";

/** The site’s connection; `null` for a site without one. */
export function storedConnection(db: Db): Connection | null {
  const stored = readStoredConnection(db);
  return stored && readConnection(stored.description);
}

/** The site’s connection and its secret. @throws {Refusal} where it has none. */
export function connectionOf(
  db: Db,
  database: string,
): { readonly connection: Connection; readonly secret: string | null } {
  const connection = storedConnection(db);
  if (!connection) throw new Refusal("not-found", "This site has no connection. Set one up under Connection.");
  return { connection, secret: readSecret(database, connection.base) };
}

/** What the thread that writes does over the interface of the site. @param database the site’s file. */
export const wireJobs = (db: Db, database: string, now: () => string) => ({
  /** Looks at the live site. */
  async look({ isFull, byHand }: { readonly isFull: boolean; readonly byHand: ByHandChoice }, call: Call) {
    const { connection, secret } = connectionOf(db, database);
    const stop = new AbortController();
    const unwatch = watchForStop(call.cancelled, () => stop.abort());
    const client = new SiteClient(connection, { secret, signal: stop.signal });
    try {
      return await lookAtSite(
        db,
        client,
        { connection, isFull, byHand },
        { now, stopped: call.cancelled, progress: call.progress },
      );
    } finally {
      unwatch();
      await client.close();
    }
  },
  /** Looks at pages as visitors get them. */
  checkLive: ({ scope }: { readonly scope: CheckScope }, call: Call) =>
    checkLive(db, storedConnection(db), scope, { now, stopped: call.cancelled, progress: call.progress }),
  /** Sends a run to the site, and applies what it confirms. */
  async sendRun({ run }: { readonly run: number }, call: Call): Promise<"done" | "stopped"> {
    try {
      const options = { now, stopped: call.cancelled, progress: call.progress };
      return await sendRun(db, run, connectionOf(db, database), options);
    } catch (error) {
      setRunStatus(db, run, "stopped", now());
      throw error;
    }
  },
});
