import * as z from "zod";
import { PAGE_EXTRA_NAMES } from "../core/design/kinds";
import { HAND_NAMES, type HandName, type Hands } from "../core/design/hands";

/**
 * A cell with what is by hand and the site does not have, as a JSON object: texts and the robots setting by their names, `keywords`,
 * `canonical`, and `alt` as an object of descriptions by the images' addresses.
 */
const handCell = z.object({
  title: z.string().optional(),
  description: z.string().optional(),
  slug: z.string().optional(),
  robots: z.string().optional(),
  keywords: z.string().optional(),
  canonical: z.string().optional(),
  alt: z.record(z.string(), z.string()).optional(),
});

/** Reads such a cell; `null` where it is none. */
export function readHandCell(cell: string): Hands | null {
  let json: unknown;
  try {
    json = JSON.parse(cell);
  } catch {
    return null;
  }
  const read = handCell.safeParse(json);
  if (!read.success) return null;
  const { alt = {}, ...others } = read.data;
  return {
    texts: Object.fromEntries(HAND_NAMES.flatMap((name) => (others[name] ? [[name, others[name]]] : []))),
    extras: [
      ...Object.entries(alt).map(([image, value]) => ({ text: "alt" as const, image, value })),
      ...PAGE_EXTRA_NAMES.flatMap((text) => {
        const value = others[text];
        return value === undefined ? [] : [{ text, image: "", value }];
      }),
    ],
  };
}

/** Writes what a page has by hand and the site does not have yet as such a cell, `""` where there is nothing; extra texts always stand there. */
export function writeHandCell({ texts, extras }: Hands, site: Readonly<Record<HandName, string>>): string {
  const own: Record<string, unknown> = {};
  for (const name of HAND_NAMES) if (texts[name] !== undefined && texts[name] !== site[name]) own[name] = texts[name];
  const alts = extras.filter(({ text }) => text === "alt").map(({ image, value }) => [image, value]);
  for (const { text, value } of extras) if (text !== "alt") own[text] = value;
  if (alts.length > 0) own["alt"] = Object.fromEntries(alts);
  return Object.keys(own).length > 0 ? JSON.stringify(own) : "";
}

/**
 * Which of a row's texts are by hand.
 *
 * @example handOf("title, slug") // ["title", "slug"]
 */
export function handOf(cell: string): HandName[] {
  const words = cell.toLowerCase();
  if (["yes", "true", "1", "all"].includes(words.trim())) return ["title", "description", "slug"];
  return HAND_NAMES.filter((text) => words.includes(text));
}
