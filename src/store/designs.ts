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

export function readDesign(db: Db, state: DesignState, kind: Kind): StoredDesign {
  const row = db
    .prepare("SELECT design, version, saved_at FROM designs WHERE state = ? AND kind = ?")
    .get(state, kind) as { design: string; version: number; saved_at: string } | undefined;
  if (!row) return { design: EMPTY_DESIGN, version: 0, savedAt: null };
  return { design: kindDesignSchema.parse(JSON.parse(row.design)), version: row.version, savedAt: row.saved_at };
}

export function writeDesign(db: Db, state: DesignState, kind: Kind, design: KindDesign, now: string): StoredDesign {
  const row = db
    .prepare(
      `INSERT INTO designs (state, kind, design, version, saved_at) VALUES (?, ?, ?, 1, ?)
       ON CONFLICT (state, kind) DO UPDATE SET design = excluded.design, version = version + 1, saved_at = excluded.saved_at RETURNING version`,
    )
    .get(state, kind, JSON.stringify(design), now) as { version: number };
  return { design, version: row.version, savedAt: now };
}
