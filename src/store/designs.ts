import { EMPTY_DESIGN, type KindDesign, kindDesignSchema } from "../core/design/design";
import { type Kind } from "../core/design/kinds";
import { type Db } from "./open";

/** `draft`: being edited, stored as typed. `kept`: saved because someone said so. */
export type DesignState = "draft" | "kept";

export interface StoredDesign {
  readonly design: KindDesign;
  /** Counts up with every write; a writer that saw an older one is told. */
  readonly version: number;
  readonly savedAt: string | null;
}

/** A connection's designs as they were read last, checked: reading them again is no more than looking whether they changed. */
const read = new WeakMap<Db, Map<string, { readonly text: string; readonly stored: StoredDesign }>>();

export function readDesign(db: Db, state: DesignState, kind: Kind): StoredDesign {
  const row = db
    .prepare("SELECT design, version, saved_at FROM designs WHERE state = ? AND kind = ?")
    .get(state, kind) as { design: string; version: number; saved_at: string } | undefined;
  if (!row) return { design: EMPTY_DESIGN, version: 0, savedAt: null };
  let known = read.get(db);
  if (!known) read.set(db, (known = new Map()));
  const before = known.get(`${state} ${kind}`);
  if (before?.text === row.design && before.stored.version === row.version) return before.stored;
  const stored = {
    design: kindDesignSchema.parse(JSON.parse(row.design)),
    version: row.version,
    savedAt: row.saved_at,
  };
  known.set(`${state} ${kind}`, { text: row.design, stored });
  return stored;
}

/** Stores a design; one that reads as the stored one does leaves it as it is, its version too. */
export function writeDesign(db: Db, state: DesignState, kind: Kind, design: KindDesign, now: string): StoredDesign {
  db.prepare(
    `INSERT INTO designs (state, kind, design, version, saved_at) VALUES (@state, @kind, @design, 1, @now)
     ON CONFLICT (state, kind) DO UPDATE SET design = excluded.design, version = version + 1, saved_at = excluded.saved_at
     WHERE design <> excluded.design`,
  ).run({ state, kind, design: JSON.stringify(design), now });
  return readDesign(db, state, kind);
}
