import { type KindDesign, kindDesignSchema } from "../core/design/design";
import { type Kind } from "../core/design/kinds";
import { type Db } from "./open";

/** A design of a kind that was put aside under a name. */
export interface NamedDraft {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  readonly savedAt: string;
}

/** A kind's named drafts, the newest first. */
export function listNamedDrafts(db: Db, kind: Kind): NamedDraft[] {
  return db
    .prepare(
      "SELECT id, kind, name, saved_at AS savedAt FROM named_drafts WHERE kind = ? ORDER BY saved_at DESC, id DESC",
    )
    .all(kind) as NamedDraft[];
}

export function readNamedDraft(db: Db, id: number): (NamedDraft & { readonly design: KindDesign }) | null {
  const row = db
    .prepare("SELECT id, kind, name, saved_at AS savedAt, design FROM named_drafts WHERE id = ?")
    .get(id) as (NamedDraft & { design: string }) | undefined;
  return row ? { ...row, design: kindDesignSchema.parse(JSON.parse(row.design)) } : null;
}

/** Puts a design aside. A name that the kind has already gets a number behind it, so that nothing is written over. */
export function putAside(db: Db, kind: Kind, name: string, design: KindDesign, now: string): NamedDraft {
  return db
    .transaction(() => {
      const taken = db.prepare("SELECT 1 FROM named_drafts WHERE kind = ? AND name = ?");
      let free = name;
      for (let number = 2; taken.get(kind, free) !== undefined; number++) free = `${name} (${number})`;
      const { lastInsertRowid } = db
        .prepare("INSERT INTO named_drafts (kind, name, design, saved_at) VALUES (?, ?, ?, ?)")
        .run(kind, free, JSON.stringify(design), now);
      return { id: Number(lastInsertRowid), kind, name: free, savedAt: now };
    })
    .immediate();
}

export function forgetNamedDraft(db: Db, id: number): void {
  db.prepare("DELETE FROM named_drafts WHERE id = ?").run(id);
}
