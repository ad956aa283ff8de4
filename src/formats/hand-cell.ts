import * as z from "zod";
import { HAND_NAMES, type HandName, type Hands } from "../core/design/hands";

/**
 * A cell with what is by hand and the site does not have, as a JSON object: texts and the robots setting by their names, `keywords`,
 * and `alt` as an object of descriptions by the images' addresses.
 */
const handCell = z.object({
  title: z.string().optional(),
  description: z.string().optional(),
  slug: z.string().optional(),
  robots: z.string().optional(),
  keywords: z.string().optional(),
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
  const { keywords, alt = {}, ...texts } = read.data;
  return {
    texts: Object.fromEntries(HAND_NAMES.flatMap((name) => (texts[name] ? [[name, texts[name]]] : []))),
    extras: [
      ...Object.entries(alt).map(([image, value]) => ({ text: "alt" as const, image, value })),
      ...(keywords === undefined ? [] : [{ text: "keywords" as const, image: "", value: keywords }]),
    ],
  };
}

/** Writes what a page has by hand and the site does not have yet as such a cell, `""` where there is nothing; extra texts always stand there. */
export function writeHandCell({ texts, extras }: Hands, site: Readonly<Record<HandName, string>>): string {
  const own: Record<string, unknown> = {};
  for (const name of HAND_NAMES) if (texts[name] !== undefined && texts[name] !== site[name]) own[name] = texts[name];
  const alts = extras.filter(({ text }) => text === "alt").map(({ image, value }) => [image, value]);
  const keywords = extras.find(({ text }) => text === "keywords");
  if (keywords) own["keywords"] = keywords.value;
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
