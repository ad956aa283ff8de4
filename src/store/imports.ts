import { type Db } from "./open";

/** Files that were coming in when the process or thread ended: what is in stays, and the rest can be brought in again. */
export function stopInterruptedImports(db: Db): void {
  db.prepare("UPDATE imports SET status = 'stopped' WHERE status = 'running'").run();
}

/** A file that was brought in, with what came of its rows. */
export interface ImportFigures {
  readonly id: number;
  readonly file: string;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly status: "running" | "done" | "stopped" | "failed";
  readonly message: string | null;
  readonly added: number;
  readonly returned: number;
  readonly updated: number;
  readonly unchanged: number;
  readonly refused: number;
  readonly gone: number;
  readonly takenBackAt: string | null;
  /** Pages that it changed, and that can be taken back. */
  readonly open: number;
  /** Pages that could not be taken back whole. */
  readonly kept: number;
}

const FIGURES = `SELECT id, file, started_at AS startedAt, ended_at AS endedAt, status, message, added, returned, updated, unchanged, refused, gone,
  taken_back_at AS takenBackAt, kept, CASE tracked WHEN 1 THEN added + returned + updated + gone - back - kept ELSE 0 END AS open FROM imports`;

/** The last so many files that were brought in, the newest first. */
export function listImports(db: Db, most: number): ImportFigures[] {
  return db.prepare(`${FIGURES} ORDER BY id DESC LIMIT ?`).all(most) as ImportFigures[];
}

export function readImport(db: Db, id: number): ImportFigures | null {
  return (db.prepare(`${FIGURES} WHERE id = ?`).get(id) as ImportFigures | undefined) ?? null;
}
