import { kindDesignSchema } from "../core/design/schema";
import { EMPTY_DESIGN, type KindDesign } from "../core/design/design";
import { type Kind } from "../core/design/kinds";
import { type Statement } from "better-sqlite3";
import { type Db } from "./open";

/** A kind's design as it is being edited, stored as typed. */
export interface StoredDraft {
  readonly design: KindDesign;
  /** Counts up with every write; a writer that saw an older one is told. */
  readonly version: number;
  readonly savedAt: string | null;
}

/** What is asked at every turn, prepared once a connection, and the drafts as they were read last, checked. */
interface Read {
  readonly draft: Statement;
  readonly known: Map<Kind, { readonly text: string; readonly stored: StoredDraft }>;
}

const read = new WeakMap<Db, Read>();

function readOf(db: Db): Read {
  let own = read.get(db);
  if (!own) {
    own = { draft: db.prepare("SELECT design, version, saved_at FROM drafts WHERE kind = ?"), known: new Map() };
    read.set(db, own);
  }
  return own;
}

export function readDraft(db: Db, kind: Kind): StoredDraft {
  const { draft, known } = readOf(db);
  const row = draft.get(kind) as { design: string; version: number; saved_at: string } | undefined;
  if (!row) return { design: EMPTY_DESIGN, version: 0, savedAt: null };
  const before = known.get(kind);
  if (before?.text === row.design && before.stored.version === row.version) return before.stored;
  const stored = {
    design: kindDesignSchema.parse(JSON.parse(row.design)),
    version: row.version,
    savedAt: row.saved_at,
  };
  known.set(kind, { text: row.design, stored });
  return stored;
}

/** Stores a draft; one that reads as the stored one does leaves it as it is, its version too. */
export function writeDraft(db: Db, kind: Kind, design: KindDesign, now: string): StoredDraft {
  db.prepare(
    `INSERT INTO drafts (kind, design, version, saved_at) VALUES (@kind, @design, 1, @now)
     ON CONFLICT (kind) DO UPDATE SET design = excluded.design, version = version + 1, saved_at = excluded.saved_at
     WHERE design <> excluded.design`,
  ).run({ kind, design: JSON.stringify(design), now });
  return readDraft(db, kind);
}
