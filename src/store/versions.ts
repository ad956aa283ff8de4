import { kindDesignSchema } from "../core/design/schema";
import { type KindDesign } from "../core/design/design";
import { type Kind } from "../core/design/kinds";
import { type Db } from "./open";

/** A kind's design as it was at one moment, saved under a name by a person or by a run. */
export interface Version {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  readonly savedAt: string;
  /** The run that saved it; `null` for a person's. */
  readonly run: number | null;
  /** Whether that run was undone. */
  readonly isUndone: boolean;
}

const FIGURES = `SELECT versions.id, kind, versions.name, saved_at AS savedAt, run, runs.taken_back_by IS NOT NULL AS isUndone
  FROM versions LEFT JOIN runs ON runs.id = versions.run`;
type Row = Omit<Version, "isUndone"> & { isUndone: number };

const versionOf = ({ isUndone, ...row }: Row): Version => ({ ...row, isUndone: isUndone === 1 });

/** A kind's versions, the newest first. */
export function listVersions(db: Db, kind: Kind): Version[] {
  const rows = db.prepare(`${FIGURES} WHERE kind = ? ORDER BY saved_at DESC, versions.id DESC`).all(kind) as Row[];
  return rows.map(versionOf);
}

export function readVersion(db: Db, id: number): (Version & { readonly design: KindDesign }) | null {
  const row = db.prepare(`${FIGURES} WHERE versions.id = ?`).get(id) as Row | undefined;
  if (!row) return null;
  const design = db.prepare("SELECT design FROM versions WHERE id = ?").pluck().get(id) as string;
  return { ...versionOf(row), design: kindDesignSchema.parse(JSON.parse(design)) };
}

/** What versions there are: another text with each that is saved or deleted, also where one gets the number of one that was deleted. */
export function versionsStamp(db: Db): string {
  return db
    .prepare("SELECT count(*) || ' ' || coalesce(max(id), 0) || ' ' || coalesce(max(saved_at), '') FROM versions")
    .pluck()
    .get() as string;
}

/**
 * Saves a design as a version. A name that the kind has already gets a number behind it, so that nothing is written over.
 *
 * @param run the run that saves it; `null` for a person.
 */
export function saveVersion(
  db: Db,
  of: { readonly kind: Kind; readonly name: string; readonly design: KindDesign; readonly run: number | null },
  now: string,
): Version {
  const { kind, name, design, run } = of;
  return db
    .transaction(() => {
      const taken = db.prepare("SELECT 1 FROM versions WHERE kind = ? AND name = ?");
      let free = name;
      for (let number = 2; taken.get(kind, free) !== undefined; number++) free = `${name} (${number})`;
      const { lastInsertRowid } = db
        .prepare("INSERT INTO versions (kind, name, design, saved_at, run) VALUES (?, ?, ?, ?, ?)")
        .run(kind, free, JSON.stringify(design), now, run);
      return { id: Number(lastInsertRowid), kind, name: free, savedAt: now, run, isUndone: false };
    })
    .immediate();
}

/** Deletes a version that a person saved; a run's stays with its run. */
export function deleteVersion(db: Db, id: number): void {
  db.prepare("DELETE FROM versions WHERE id = ? AND run IS NULL").run(id);
}
