import { type SlugSpelling, slugWords } from "../slugs/slug";
import { type ExtraName } from "../design/kinds";
import { isCanonicalForm } from "../addresses/canonical";
import { plainText } from "../text/plain";
import { ROBOTS, readRobots } from "../design/robots";

/** What of a page can be set by hand. */
export type EditedField = "title" | "description" | "slug" | "keyword" | "robots" | "alt" | "keywords" | "canonical";

/** What of a page a cell of the list can be set to. */
export type CellField = Exclude<EditedField, ExtraName>;

/** A value that can be set, or why it cannot, in words that follow the value's name. */
export type Tidied = { readonly value: string } | { readonly refused: string };

/** So many characters are looked at at all: more is no text for a page, but something pasted by mistake. */
export const MOST_PASTED = 20_000;
const MOST: Record<EditedField, number> = {
  title: 2000,
  description: 2000,
  slug: 400,
  keyword: 200,
  robots: 40,
  alt: 1000,
  keywords: 1000,
  canonical: 2000,
};

/**
 * A value as it is set by hand: on one line, without tags, control and direction characters; a slug as slugs are, with
 * every word kept.
 *
 * @example tidyByHand("title", "Brass\n cleats\u200e", slug) // { value: "Brass cleats" }
 * @example tidyByHand("slug", "Brass Cleats & Co", slug) // { value: "brass-cleats-and-co" }
 */
export function tidyByHand(field: EditedField, raw: string, slug: SlugSpelling): Tidied {
  if (raw.length > MOST_PASTED)
    return {
      refused: `is ${raw.length.toLocaleString("en")} characters long; at most ${MOST[field].toLocaleString("en")} are allowed`,
    };
  const text = plainText(raw);
  const value = field === "slug" ? slugWords(text, slug) : text;
  if (field === "keyword" && value === "") return { value };
  if (value === "")
    return {
      refused:
        text === ""
          ? "is empty; to use the line again, choose “Use the line again”"
          : "has no letter or digit that a slug can keep",
    };
  if (field === "robots") {
    const setting = readRobots(value);
    return /^(?:(?:no)?(?:index|follow)|all|none|[\s,;])+$/i.test(value)
      ? { value: setting }
      : { refused: `is no robots setting; there are ${ROBOTS.join("; ")}` };
  }
  if (field === "canonical" && !isCanonicalForm(value))
    return { refused: "is no address; it begins with / or with https://, and has no spaces" };
  if (value.length > MOST[field])
    return {
      refused: `is ${value.length.toLocaleString("en")} characters long; at most ${MOST[field].toLocaleString("en")} are allowed`,
    };
  return { value };
}
