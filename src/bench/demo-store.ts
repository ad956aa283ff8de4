import { join } from "node:path";
import { loadDemo } from "../demo/load";
import { type Db, openStore } from "../store/open";

let number = 0;

/** A database of its own in a folder, with so many of the demo site's products. */
export function demoStore(folder: string, products: number): { db: Db; path: string } {
  const path = join(folder, `demo-${++number}-${products}.db`);
  const db = openStore(path);
  loadDemo(db, { products });
  return { db, path };
}
