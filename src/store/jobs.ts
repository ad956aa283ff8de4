import { type Db } from "./open";

export const JOB_TYPES = ["run", "import", "import-back", "edit", "keywords", "look", "check"] as const;
export type JobType = (typeof JOB_TYPES)[number];

export const JOB_STATES = ["waiting", "running", "done", "stopped", "failed"] as const;
export type JobState = (typeof JOB_STATES)[number];

/** Whether a job in a state is still to be done, or being done. */
export const isOpen = (state: JobState): boolean => state === "waiting" || state === "running";

/** Long work that writes, as it is stored. */
export interface StoredJob {
  readonly id: number;
  readonly type: JobType;
  readonly state: JobState;
  readonly label: string;
  readonly params: unknown;
  readonly result: unknown;
  readonly done: number;
  readonly total: number | null;
  /** What is to be said of it: why it failed or was stopped. */
  readonly message: string | null;
  /** Who asked for it. */
  readonly begunBy: string;
  readonly createdAt: string;
  readonly startedAt: string | null;
  readonly endedAt: string | null;
}

/** What a job is made with. */
export type NewJob = Pick<StoredJob, "type" | "label" | "params" | "total" | "begunBy">;

interface JobRow {
  id: number;
  type: JobType;
  state: JobState;
  label: string;
  params: string;
  result: string | null;
  done: number;
  total: number | null;
  message: string | null;
  begun_by: string;
  created_at: string;
  started_at: string | null;
  ended_at: string | null;
}

/** So many ended jobs are kept. */
const MOST_KEPT = 500;

/** Puts a job behind all others. */
export function addJob(db: Db, { type, label, params, total, begunBy }: NewJob, now: string): StoredJob {
  const insert = db.prepare(
    "INSERT INTO jobs (type, state, label, params, total, begun_by, created_at) VALUES (?, 'waiting', ?, ?, ?, ?, ?)",
  );
  const id = Number(insert.run(type, label, JSON.stringify(params), total, begunBy, now).lastInsertRowid);
  db.prepare("DELETE FROM jobs WHERE state IN ('done', 'stopped', 'failed') AND id <= ?").run(id - MOST_KEPT);
  return readJob(db, id)!;
}

export function readJob(db: Db, id: number): StoredJob | null {
  const row = db.prepare("SELECT * FROM jobs WHERE id = ?").get(id) as JobRow | undefined;
  return row ? jobOf(row) : null;
}

/** The jobs that are open, in their order. */
export function openJobs(db: Db): StoredJob[] {
  return (db.prepare("SELECT * FROM jobs WHERE state IN ('waiting', 'running') ORDER BY id").all() as JobRow[]).map(
    jobOf,
  );
}

/** The last so many jobs, the newest first. */
export function listJobs(db: Db, most: number): StoredJob[] {
  return (db.prepare("SELECT * FROM jobs ORDER BY id DESC LIMIT ?").all(most) as JobRow[]).map(jobOf);
}

/** Begins a job that waits; says whether it still did. */
export function beginJob(db: Db, id: number, now: string): boolean {
  const begin = db.prepare("UPDATE jobs SET state = 'running', started_at = ? WHERE id = ? AND state = 'waiting'");
  return begin.run(now, id).changes === 1;
}

/** Notes how far a job is, and what came of it so far. */
export function noteProgress(
  db: Db,
  id: number,
  { done, total, result }: Pick<StoredJob, "done" | "total" | "result">,
): void {
  db.prepare("UPDATE jobs SET done = ?, total = ?, result = ? WHERE id = ?").run(done, total, json(result), id);
}

/** Ends a job; one that has ended already stays as it is. */
export function endJob(
  db: Db,
  id: number,
  end: { state: "done" | "stopped" | "failed"; message: string | null; result: unknown },
  now: string,
): void {
  db.prepare(
    `UPDATE jobs SET state = ?, message = ?, result = coalesce(?, result), ended_at = ?,
       done = CASE WHEN ? = 'done' THEN coalesce(total, done) ELSE done END
     WHERE id = ? AND state IN ('waiting', 'running')`,
  ).run(end.state, end.message, json(end.result), now, end.state, id);
}

/** Jobs that a kill interrupted are stopped: what they did stays done, what they had not done can be gone on with. */
export function stopInterruptedJobs(db: Db, now: string): void {
  db.prepare(
    `UPDATE jobs SET ended_at = ?, message = CASE state WHEN 'running' THEN 'The server was ended while this was under way'
       ELSE 'The server was ended before this began' END, state = 'stopped' WHERE state IN ('waiting', 'running')`,
  ).run(now);
}

function json(value: unknown): string | null {
  return value === null || value === undefined ? null : JSON.stringify(value);
}

function jobOf(row: JobRow): StoredJob {
  return {
    id: row.id,
    type: row.type,
    state: row.state,
    label: row.label,
    params: JSON.parse(row.params),
    result: row.result === null ? null : JSON.parse(row.result),
    done: row.done,
    total: row.total,
    message: row.message,
    begunBy: row.begun_by,
    createdAt: row.created_at,
    startedAt: row.started_at,
    endedAt: row.ended_at,
  };
}
