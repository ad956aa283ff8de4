import { randomUUID } from "node:crypto";
import { withRule } from "../../core/design/change-rules";
import { type KindDesign } from "../../core/design/design";
import { type Kind, requireKind } from "../../core/design/kinds";
import { Refusal } from "../../core/refusal";
import { readDesign, type StoredDesign, writeDesign } from "../../store/designs";
import { readSite } from "../../store/site";
import { type NamedDraft, putAside, readNamedDraft } from "../../store/named-drafts";
import { type Choice } from "../items/chosen-pages";
import { type OpenedSite } from "../workspace/opened-site";

/** What became of a draft that was sent: it is stored, or another window stored one since. */
export type SavedDraft = { readonly saved: StoredDesign } | { readonly conflict: StoredDesign };

/**
 * Stores a kind's draft.
 *
 * @throws {Refusal} for a kind that the site has not.
 * @param seen the version that the writer last saw: where the stored draft is a newer and another one, nothing is stored.
 */
export function saveDraft({ db, now }: OpenedSite, kind: Kind, design: KindDesign, seen: number): SavedDraft {
  return db
    .transaction((): SavedDraft => {
      requireKind(readSite(db), kind);
      const current = readDesign(db, "draft", kind);
      const isSame = JSON.stringify(current.design) === JSON.stringify(design);
      if (current.version > seen && !isSame) return { conflict: current };
      return { saved: writeDesign(db, "draft", kind, design, now()) };
    })
    .immediate();
}

/** Keeps a kind's draft: what the site is designed with from now on. */
export function keepDraft({ db, now }: OpenedSite, kind: Kind): StoredDesign {
  requireKind(readSite(db), kind);
  return writeDesign(db, "kept", kind, readDesign(db, "draft", kind).design, now());
}

/**
 * A kind's design by what it is called in a comparison: `draft`, `kept`, or the number of a named draft.
 *
 * @throws {Refusal} where there is no such draft any more.
 */
export function designNamed({ db }: OpenedSite, kind: Kind, which: string): KindDesign {
  requireKind(readSite(db), kind);
  if (which === "draft" || which === "kept") return readDesign(db, which, kind).design;
  const named = readNamedDraft(db, Number(which));
  if (named?.kind !== kind) throw new Refusal("not-found", "That named draft is no longer there; choose another one");
  return named.design;
}

/** Puts a kind's draft aside under a name. */
export function nameDraft({ db, now }: OpenedSite, kind: Kind, name: string): NamedDraft {
  requireKind(readSite(db), kind);
  return putAside(db, kind, name, readDesign(db, "draft", kind).design, now());
}

/** Makes a kept or named design the draft; the one before is put aside first, unless it reads the same. */
export function chooseDraft(site: OpenedSite, kind: Kind, which: string): StoredDesign {
  const { db } = site;
  const chosen = designNamed(site, kind, which);
  const present = readDesign(db, "draft", kind);
  if (JSON.stringify(chosen) === JSON.stringify(present.design)) return present;
  return db
    .transaction(() => {
      putAside(db, kind, "Draft before another was chosen", present.design, site.now());
      return writeDesign(db, "draft", kind, chosen, site.now());
    })
    .immediate();
}

/** Puts a rule for just the chosen pages at the top of their kind's draft; it begins with the line that the base has. */
export async function ruleFor(site: OpenedSite, choice: Choice): Promise<{ kind: Kind; rule: string }> {
  const { kind, ids } = await site.proof.call("idsOf", { choice });
  const { design } = readDesign(site.db, "draft", kind);
  const id = randomUUID();
  const name = ids.length === 1 ? "One chosen page" : `${ids.length.toLocaleString("en")} chosen pages`;
  const line = design.base.title === undefined ? {} : { title: design.base.title };
  const rule = { id, name, when: { field: "id", "is one of": ids }, ...line };
  writeDesign(site.db, "draft", kind, withRule(design, rule), site.now());
  return { kind, rule: id };
}
