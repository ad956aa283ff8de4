import { randomUUID } from "node:crypto";
import { withRule } from "../../core/design/change-rules";
import { EMPTY_DESIGN, type KindDesign } from "../../core/design/design";
import { type Kind, requireKind } from "../../core/design/kinds";
import { Refusal } from "../../core/refusal";
import { readDraft, type StoredDraft, writeDraft } from "../../store/drafts";
import { readSite } from "../../store/site";
import { readVersion, saveVersion, type Version } from "../../store/versions";
import { type Choice } from "../items/chosen-pages";
import { type OpenedSite } from "../workspace/opened-site";

/** What became of a draft that was sent: it is stored, or another window stored one since. */
export type SavedDraft = { readonly saved: StoredDraft } | { readonly conflict: StoredDraft };

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
      const current = readDraft(db, kind);
      const isSame = JSON.stringify(current.design) === JSON.stringify(design);
      if (current.version > seen && !isSame) return { conflict: current };
      return { saved: writeDraft(db, kind, design, now()) };
    })
    .immediate();
}

/**
 * A kind's design by what it is called in a comparison: `draft`, `live` (no lines: every text is what the site has), or the number of a version.
 *
 * @throws {Refusal} where there is no such version any more.
 */
export function designNamed({ db }: OpenedSite, kind: Kind, which: string): KindDesign {
  requireKind(readSite(db), kind);
  if (which === "draft") return readDraft(db, kind).design;
  if (which === "live") return EMPTY_DESIGN;
  const version = readVersion(db, Number(which));
  if (version?.kind !== kind) throw new Refusal("not-found", "That version no longer exists; choose another one");
  return version.design;
}

/** Saves a version: of the design that a window shows, which may not be stored yet, or of the stored draft. */
export function saveNamedVersion(
  { db, now }: OpenedSite,
  kind: Kind,
  name: string,
  design: KindDesign = readDraft(db, kind).design,
): Version {
  requireKind(readSite(db), kind);
  return saveVersion(db, { kind, name, design, run: null }, now());
}

/** Makes a version the draft; the one before is saved as a version first, unless it reads the same. */
export function chooseVersion(site: OpenedSite, kind: Kind, which: string): StoredDraft {
  const { db } = site;
  const chosen = designNamed(site, kind, which);
  const present = readDraft(db, kind);
  if (JSON.stringify(chosen) === JSON.stringify(present.design)) return present;
  return db
    .transaction(() => {
      const name = "Draft before another version";
      saveVersion(db, { kind, name, design: present.design, run: null }, site.now());
      return writeDraft(db, kind, chosen, site.now());
    })
    .immediate();
}

/** Puts a rule for just the chosen pages at the top of their kind's draft; it begins with the line that the base has. */
export async function ruleFor(site: OpenedSite, choice: Choice): Promise<{ kind: Kind; rule: string }> {
  const { kind, ids } = await site.proof.call("idsOf", { choice });
  const { design } = readDraft(site.db, kind);
  const id = randomUUID();
  const name = ids.length === 1 ? "One selected page" : `${ids.length.toLocaleString("en")} selected pages`;
  const line = design.base.title === undefined ? {} : { title: design.base.title };
  const rule = { id, name, when: { field: "id", "is one of": ids }, ...line };
  writeDraft(site.db, kind, withRule(design, rule), site.now());
  return { kind, rule: id };
}
