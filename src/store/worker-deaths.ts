import { type Db } from "./open";

/** Something that ended a worker thread more than once. */
export interface Killer {
  readonly fingerprint: string;
  /** What it is, in words. */
  readonly what: string;
  readonly deaths: number;
}

/** So often something may end a thread before it is not tried again. */
const MOST_DEATHS = 2;

/** Notes that something ended a thread; says how often it did by now. */
export function noteDeath(db: Db, fingerprint: string, what: string, now: string): number {
  const note = db.prepare(
    `INSERT INTO worker_deaths (fingerprint, what, deaths, last_at) VALUES (?, ?, 1, ?)
     ON CONFLICT (fingerprint) DO UPDATE SET deaths = deaths + 1, what = excluded.what, last_at = excluded.last_at RETURNING deaths`,
  );
  return note.pluck().get(fingerprint, what, now) as number;
}

/** What is not tried again. */
export function killers(db: Db): Killer[] {
  return db
    .prepare("SELECT fingerprint, what, deaths FROM worker_deaths WHERE deaths >= ?")
    .all(MOST_DEATHS) as Killer[];
}
