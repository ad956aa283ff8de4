import { type KindDesign } from "../../core/design/design";
import { type Kind, kindIds, TEXTS } from "../../core/design/kinds";
import { firstDesign, type ProposedLine } from "../../core/infer/first-design";
import { readDraft, writeDraft } from "../../store/drafts";
import { countByKind } from "../../store/items";
import { readSite } from "../../store/site";
import { type OpenedSite } from "../workspace/opened-site";

/** First lines for a kind. */
export interface FirstDesign {
  readonly kind: Kind;
  readonly pages: number;
  readonly lines: readonly ProposedLine[];
}

/** First lines for each kind that has pages and no line yet. */
export async function firstDesigns(site: OpenedSite): Promise<FirstDesign[]> {
  const counts = countByKind(site.db);
  const settings = readSite(site.db);
  const hasName = (settings?.name ?? "") !== "";
  const kinds = kindIds(settings).filter((kind) => (counts[kind] ?? 0) > 0 && isEmpty(readDraft(site.db, kind).design));
  const made: FirstDesign[] = [];
  for (const kind of kinds) {
    const fields = await site.proof.call("fields", { kind });
    const pages = counts[kind]!;
    made.push({ kind, pages, lines: firstDesign(kind, fields, pages, hasName) });
  }
  return made;
}

/** Makes the first lines of some kinds their drafts; a kind that has lines by now keeps them. @returns the kinds that have them now. */
export async function takeFirstDesigns(site: OpenedSite, wanted: readonly Kind[]): Promise<Kind[]> {
  const proposed = (await firstDesigns(site)).filter(({ kind }) => wanted.includes(kind));
  return site.db
    .transaction(() =>
      proposed.flatMap(({ kind, lines }) => {
        const { design } = readDraft(site.db, kind);
        const base = Object.fromEntries(lines.flatMap(({ text, line }) => (line === null ? [] : [[text, line]])));
        if (!isEmpty(design) || Object.keys(base).length === 0) return [];
        writeDraft(site.db, kind, { ...design, base: { ...design.base, ...base } }, site.now());
        return [kind];
      }),
    )
    .immediate();
}

function isEmpty({ base, rules }: KindDesign): boolean {
  return rules.length === 0 && TEXTS.every((text) => !base[text]?.trim());
}
