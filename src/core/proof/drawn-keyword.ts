import { type Site } from "../design/design";
import { type Place, placeKeyword, Vocabulary } from "../keywords/place";
import { isSeen } from "../measure/cut";
import { type Surface } from "../measure/surface";
import { languageByTag } from "../text/language";
import { widthOf } from "../measure/running-width";

/** A keyword as it is drawn on a row: where it begins and how wide it is, in px (characters for slugs). */
export interface DrawnKeyword extends Place {
  readonly start: number;
  readonly width: number;
  readonly seen: boolean;
}

const vocabularies = new WeakMap<Site, Vocabulary>();

/** The vocabulary of a site's language, where there is no workspace that has one. */
export function vocabularyOf(site: Site): Vocabulary {
  let words = vocabularies.get(site);
  if (!words) vocabularies.set(site, (words = new Vocabulary(languageByTag(site.language))));
  return words;
}

/**
 * Where a keyword stands in a text and how it is drawn there; `null` where there is no keyword.
 *
 * @param words the vocabulary of the site's language, where there is one already.
 */
export function drawnKeyword(
  site: Site,
  keyword: string,
  text: string,
  surface: Surface | null,
  slug: boolean,
  words: Vocabulary = vocabularyOf(site),
): DrawnKeyword | null {
  const ready = keyword === "" ? null : words.keyword(keyword);
  if (!ready) return null;
  const place = placeKeyword(words, ready, text);
  if (place.char === null) return { ...place, start: 0, width: 0, seen: false };
  const start = widthOf(surface, slug, text.slice(0, place.char - 1));
  return {
    ...place,
    start,
    width: widthOf(surface, slug, text.slice(0, place.end!)) - start,
    seen: !surface || isSeen(surface, text, place.end!),
  };
}
