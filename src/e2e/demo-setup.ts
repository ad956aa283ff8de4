import { rmSync } from "node:fs";
import { dirname } from "node:path";
import { type TestProject } from "vitest/node";
import { endServer, freshDatabase, startServer } from "./app";

declare module "vitest" {
  export interface ProvidedContext {
    /** A folder of data with the demo site in it, as a first start leaves it; it is copied, never opened. */
    readonly demoData: string;
  }
}

/** Makes the demo site once for all tests that begin with it: a server that is started for the first time, and ended. */
export default async function setup(project: TestProject): Promise<() => void> {
  const db = freshDatabase();
  const { server } = await startServer(db);
  await endServer(server);
  const data = dirname(dirname(db));
  project.provide("demoData", data);
  return () => rmSync(data, { recursive: true, force: true });
}
