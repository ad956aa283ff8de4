import { existsSync, mkdirSync, readdirSync } from "node:fs";
import { dirname, join } from "node:path";

/** Where everything is kept: `NINE_LINES_DATA`, or `data` in the project. */
export function dataFolder(): string {
  return process.env["NINE_LINES_DATA"] ?? join(process.cwd(), "data");
}

/** Where the sites are, each a database file. */
export function sitesFolder(): string {
  return join(dataFolder(), "sites");
}

/** A site's database. */
export function siteFile(id: string): string {
  return join(sitesFolder(), `${id}.db`);
}

/** First parts of addresses that the application itself answers at. */
const TAKEN = new Set(["api", "_next", "icon", "favicon", "sites"]);

/** Whether something is a site's id: what its file and its addresses are named by. */
export function isSiteId(id: string): boolean {
  return /^[a-z0-9](?:[a-z0-9-]{0,58}[a-z0-9])?$/.test(id) && !TAKEN.has(id);
}

/** The ids of all sites, in the order of their letters. */
export function siteIds(): string[] {
  if (!existsSync(sitesFolder())) return [];
  return readdirSync(sitesFolder())
    .flatMap((name) => (name.endsWith(".db") ? [name.slice(0, -3)] : []))
    .filter(isSiteId)
    .sort();
}

/** Makes a folder and those above it. One by one: where the system takes none, Node's recursive way never ends. */
export function makeFolder(folder: string): void {
  if (existsSync(folder)) return;
  makeFolder(dirname(folder));
  mkdirSync(folder);
}
