import { type TextName, TEXTS } from "../../core/design/kinds";
import { counted } from "./format";

const CHANGED = [...TEXTS, "address"] as const;

/** What of a kind a draft can change. */
export type Changed = Readonly<Record<TextName | "address", number>>;

const WORDS: Readonly<Record<keyof Changed, readonly [string, string]>> = {
  title: ["title", "titles"],
  description: ["description", "descriptions"],
  slug: ["slug", "slugs"],
  address: ["address", "addresses"],
};

/** How many of each text a kind's draft changes, and how many addresses it changes with the slug left as it is. */
export function changedOf({
  texts,
  moves,
}: {
  readonly moves: number;
  readonly texts: Readonly<Record<TextName, { readonly draft: { readonly changed: number } }>>;
}): Changed {
  return {
    title: texts.title.draft.changed,
    description: texts.description.draft.changed,
    slug: texts.slug.draft.changed,
    address: moves,
  };
}

export function countOf(changed: Changed): number {
  return CHANGED.reduce((sum, what) => sum + changed[what], 0);
}

/**
 * How many texts of a kind differ from what is live.
 *
 * @example liveDifference({ title: 12, description: 0, slug: 1, address: 0 }) // "12 titles, 1 slug differ from live"
 */
export function liveDifference(changed: Changed): string {
  const parts = CHANGED.flatMap((what) => (changed[what] > 0 ? [counted(changed[what], ...WORDS[what])] : []));
  const all = countOf(changed);
  return all === 0 ? "Same as live" : `${parts.join(", ")} ${all === 1 ? "differs" : "differ"} from live`;
}
