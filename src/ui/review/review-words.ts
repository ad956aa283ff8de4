import type { HeldBack } from "../../core/addresses/address-plan";
import type { ChangeGroup } from "../../core/plan/groups";
import type { ReviewedText } from "../../core/plan/review-filter";
import type { ReviewedChange } from "../../server/review/reviewed-change";
import { count, counted } from "../shell/format";

interface GroupWords {
  readonly title: string;
  readonly about: string;
  /** Whether a person has to look at it. */
  readonly needsPerson: boolean;
}

/** What each group of changes is called, and what it is. */
export const GROUP_WORDS: Record<ChangeGroup, GroupWords> = {
  shorter: { title: "Now fits", about: "Was too wide, fits now", needsPerson: false },
  filled: { title: "Fills empty texts", about: "There was no text before", needsPerson: false },
  "told-apart": { title: "Makes duplicates unique", about: "Had the same text as another page", needsPerson: false },
  written: {
    title: "Written by hand",
    about: "Written for the page, but not live yet",
    needsPerson: false,
  },
  robots: { title: "Indexing changes", about: "The robots setting differs from the live one", needsPerson: false },
  "gets-address": {
    title: "Gets an address",
    about: "The page has none yet, so no redirect is needed",
    needsPerson: false,
  },
  reworded: { title: "Reworded", about: "Fitted before and fits now", needsPerson: false },
  links: {
    title: "Links fixed",
    about: "Links in bodies lead where they should; nothing else of a body changes",
    needsPerson: false,
  },
  moves: {
    title: "Address moves",
    about: "Links point to the old address: excluded until you include it. Each move adds a redirect",
    needsPerson: false,
  },
  "still-wide": { title: "Still too wide", about: "Was too wide or empty, and is still too wide", needsPerson: true },
  worse: {
    title: "Gets worse",
    about: "Loses its keyword, no longer fits, or becomes a duplicate",
    needsPerson: true,
  },
  clash: { title: "Address clashes", about: "Two pages would have one address; never applied", needsPerson: true },
  reserved: {
    title: "Reserved slugs",
    about: "The site itself uses that address; never applied",
    needsPerson: true,
  },
  "by-hand": { title: "Set by hand", about: "Live already; never touched by a line", needsPerson: false },
};

const TEXT_WORDS: Record<ReviewedText, readonly [one: string, many: string]> = {
  title: ["title", "titles"],
  description: ["description", "descriptions"],
  slug: ["slug", "slugs"],
  robots: ["robots setting", "robots settings"],
  alt: ["image description", "image descriptions"],
  keywords: ["list of meta keywords", "lists of meta keywords"],
  canonical: ["canonical", "canonicals"],
  body: ["link", "links"],
};

/** @example textCounts({ title: 2, description: 1, slug: 0, robots: 0 }) // ["2 titles", "1 description"] */
export function textCounts(counts: Readonly<Record<ReviewedText, number>>): string[] {
  return (Object.entries(counts) as [ReviewedText, number][])
    .filter(([, n]) => n > 0)
    .map(([text, n]) => `${count(n)} ${textWord(text, n)}`);
}

/** @example textWord("title", 2) // "titles" */
export function textWord(text: ReviewedText, n: number): string {
  return TEXT_WORDS[text][n === 1 ? 0 : 1];
}

/**
 * What makes a change one for the worse, in words.
 *
 * @param alike how many pages would read the same. @param limit of the text's width, in px; `null` for one without.
 */
export function worseWords({ reasons, alike }: ReviewedChange["worse"], limit: number | null): string {
  return reasons
    .map((reason) => {
      switch (reason) {
        case "too-wide":
          return limit === null ? "Becomes too long" : `Becomes wider than ${limit} px`;
        case "keyword":
          return "Loses its keyword";
        case "duplicate":
          return `Would be the same on ${count(alike)} pages`;
      }
    })
    .join(" · ");
}

/** @example costWords({ links: 3, redirects: 1 }) // "3 links and 1 redirect lead here" */
export function costWords({ links, redirects }: NonNullable<ReviewedChange["cost"]>): string {
  const parts = [
    ...(links > 0 ? [counted(links, "link", "links")] : []),
    ...(redirects > 0 ? [counted(redirects, "redirect", "redirects")] : []),
  ];
  if (parts.length === 0) return "";
  return `${parts.join(" and ")} ${links + redirects === 1 ? "leads" : "lead"} here`;
}

/** Why a change is held back, in words. */
export function heldWords(held: HeldBack): string {
  switch (held.why) {
    case "clash":
      return `Held back: another page would be at ${held.path}, too`;
    case "below":
      return `Held back: the page above it, at ${held.path}, cannot move`;
  }
}
