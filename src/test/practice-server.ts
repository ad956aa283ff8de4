import Database from "better-sqlite3";
import { createServer } from "node:http";
import { type AddressInfo } from "node:net";
import { readConnection } from "../core/connection/connection-file";
import { type Connection } from "../core/connection/schema";
import flat from "../demo/connections/flat.connection.json";
import nested from "../demo/connections/nested.connection.json";
import { Faults, type FaultName } from "../practice/faults";
import { PracticeSite } from "../practice/practice-site";
import { PracticeStore } from "../practice/practice-store";

/** A practice site that listens, for tests. */
export interface PracticeServer {
  readonly base: string;
  readonly store: PracticeStore;
  readonly faults: Faults;
  readonly token: string;
  /** Methods and targets of requests so far. */
  readonly heard: string[];
  /** How it is spoken to in one of its shapes, as fast as it can. */
  readonly connection: (face: "flat" | "nested", limits?: Partial<Connection["limits"]>) => Connection;
  readonly fault: (name: FaultName, share: number) => void;
  readonly close: () => void;
}

const TOKEN = "a-token-that-only-tests-know";

/** @param fill puts its pages in. @param random what chance says, from 0 up to 1. */
export async function practiceServer(
  fill: (store: PracticeStore) => void,
  random: () => number = Math.random,
): Promise<PracticeServer> {
  const store = new PracticeStore(new Database(":memory:"));
  fill(store);
  const faults = new Faults(store, random);
  const heard: string[] = [];
  let site: PracticeSite | null = null;
  const server = createServer((request, response) => {
    heard.push(`${request.method} ${request.url}`);
    void site!.serve(request, response);
  });
  await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  site = new PracticeSite(store, { name: "Fennick & Dray", base }, TOKEN, faults);
  return {
    base,
    store,
    faults,
    token: TOKEN,
    heard,
    connection: (face, limits) => {
      const file = face === "flat" ? flat : nested;
      return readConnection(
        JSON.stringify({
          ...file,
          base: `${base}/api/${face}`,
          visitors: base,
          limits: { perSecond: 1000, atOnce: 8, timeoutSeconds: 5, giveUpMinutes: 0.5, ...limits },
        }),
      );
    },
    fault: (name, share) => faults.set(name, share),
    close: () => {
      server.closeAllConnections();
      server.close();
      store.db.close();
    },
  };
}
