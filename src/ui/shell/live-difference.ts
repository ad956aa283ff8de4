import { type TextName, TEXTS } from "../../core/design/kinds";
import { counted } from "./format";

const WORDS: Readonly<Record<TextName, readonly [string, string]>> = {
  title: ["title", "titles"],
  description: ["description", "descriptions"],
  slug: ["slug", "slugs"],
};

/** How many of each text a kind's draft changes. */
export function changedOf({
  texts,
}: {
  readonly texts: Readonly<Record<TextName, { readonly draft: { readonly changed: number } }>>;
}): Readonly<Record<TextName, number>> {
  return {
    title: texts.title.draft.changed,
    description: texts.description.draft.changed,
    slug: texts.slug.draft.changed,
  };
}

/**
 * How many texts of a kind differ from what is live.
 *
 * @example liveDifference({ title: 12, description: 0, slug: 1 }) // "12 titles, 1 slug differ from live"
 */
export function liveDifference(changed: Readonly<Record<TextName, number>>): string {
  const parts = TEXTS.flatMap((text) => (changed[text] > 0 ? [counted(changed[text], ...WORDS[text])] : []));
  const all = TEXTS.reduce((sum, text) => sum + changed[text], 0);
  return all === 0 ? "Same as live" : `${parts.join(", ")} ${all === 1 ? "differs" : "differ"} from live`;
}
