import { type Db } from "./open";

/** Files that were coming in when the process or thread ended: what is in stays, and the rest can be brought in again. */
export function stopInterruptedImports(db: Db): void {
  db.prepare("UPDATE imports SET status = 'stopped' WHERE status = 'running'").run();
}
