import * as z from "zod";
import { readConnection } from "../../core/connection/connection-file";
import { connectionJsonSchema } from "../../core/connection/schema";
import { kindIdSchema } from "../../core/design/kind-schema";
import { requireKind } from "../../core/design/kinds";
import { BY_HAND_CHOICES } from "../../core/infer/by-hand";
import { Refusal } from "../../core/refusal";
import { practiceConnections } from "../../demo/practice-connections";
import { readSite } from "../../store/site";
import { countWirePages, lastLook, readStoredConnection, removeConnection, writeConnection } from "../../store/wire";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { type OpenedSite } from "../workspace/opened-site";
import { foreseeSite } from "./look";
import { startLook } from "./look-work";
import { isFromEnvironment, readSecret, removeSecret, secretVariable, writeSecret } from "./secrets";
import { SiteClient } from "./site-client";
import { tryList, tryWrite } from "./try-connection";
import { connectionOf } from "./wire-jobs";

const description = z.string().max(200_000);
const secret = z.string().min(1).max(4000).nullable();
const tried = z.object({ description, secret: secret.default(null), kind: kindIdSchema });

/** A site’s connection, without its secret. */
function connectionView(site: OpenedSite) {
  const stored = readStoredConnection(site.db);
  if (!stored) return null;
  const connection = readConnection(stored.description);
  return {
    description: stored.description,
    savedAt: stored.savedAt,
    name: connection.name,
    base: connection.base,
    kinds: Object.keys(connection.kinds),
    writes: connection.write !== undefined,
    needsSecret: Object.values(connection.headers).some((value) => value.includes("{secret}")),
    hasSecret: readSecret(site.path, connection.base) !== null,
    isFromEnvironment: isFromEnvironment(site.path),
    variable: secretVariable(site.path),
    pages: countWirePages(site.db),
    lastLook: lastLook(site.db),
  };
}

/** Nothing of the connection is changed while something goes over it. */
function refuseAtWork(site: OpenedSite): void {
  const open = site.jobs.open().find(({ type }) => type === "look" || type === "run");
  if (open)
    throw new Refusal(
      "busy",
      `${open.label} is running. Stop it, or wait until it is done, before you change the connection.`,
    );
}

export const wireCalls = {
  /** The site’s connection; `null` for a site without one. */
  read: endpoint(NOTHING, (site) => connectionView(site)),
  /** Keeps a connection, and its secret where one is given; `seen` is the description that the writer began with. */
  save: endpoint(
    z.object({ description, secret: secret.default(null), seen: description.nullable() }),
    (site, asked) => {
      refuseAtWork(site);
      if ((readStoredConnection(site.db)?.description ?? null) !== asked.seen)
        throw new Refusal(
          "conflict",
          "The connection was changed in another window. Copy what you wrote, discard your changes to see the other one, and decide.",
        );
      const connection = readConnection(asked.description);
      for (const kind of Object.keys(connection.kinds)) requireKind(readSite(site.db), kind);
      writeConnection(site.db, asked.description, connection.write !== undefined, site.now());
      if (asked.secret !== null) writeSecret(site.path, connection.base, asked.secret);
      return connectionView(site);
    },
  ),
  /** Forgets the connection and its secret; pages and runs stay. */
  remove: endpoint(NOTHING, (site) => {
    refuseAtWork(site);
    removeConnection(site.db);
    removeSecret(site.path);
    return { removed: true };
  }),
  /** Asks for the first records of a kind and says what is understood of them. */
  tryList: endpoint(tried, (site, asked, { signal }) => tryList(site.db, site.path, asked, signal)),
  /** Writes a page as it is and reads it again. */
  tryWrite: endpoint(tried, (site, asked, { signal }) => tryWrite(site.db, site.path, asked, signal)),
  /** What looking at the live site would bring in. */
  foresee: slowEndpoint(
    z.object({ isFull: z.boolean().default(false) }),
    async (site, { isFull }, { signal, progress }) => {
      const { connection, secret: own } = connectionOf(site.db, site.path);
      const client = new SiteClient(connection, { secret: own, signal });
      try {
        return await foreseeSite(site.db, client, { connection, isFull }, { now: () => site.now(), signal, progress });
      } finally {
        await client.close();
      }
    },
  ),
  /** Begins to look at the live site; its progress is a job. */
  look: endpoint(
    z.object({ isFull: z.boolean().default(false), byHand: z.enum(BY_HAND_CHOICES).default("none") }),
    (site, asked, { client }) => ({ job: startLook(site, asked, client) }),
  ),
  /** Descriptions to begin with: those of the practice site. */
  examples: endpoint(NOTHING, () => practiceConnections()),
  /** The JSON Schema of connection files, for editors. */
  schema: endpoint(NOTHING, () => connectionJsonSchema()),
};
