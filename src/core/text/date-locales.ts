import { type Locale } from "date-fns";
import { da, de, enGB, enUS, es, fi, fr, it, nb, nl, pt, sv } from "date-fns/locale";

const LOCALES: Readonly<Record<string, Locale>> = { en: enGB, de, fr, es, it, nl, pt, da, sv, nb, fi };

/** How dates are written in a language, by its BCP 47 tag; in English for one that is not known. */
export function dateLocale(tag: string): Locale {
  const lower = tag.toLowerCase();
  return lower === "en-us" ? enUS : (LOCALES[lower.split("-")[0]!] ?? enGB);
}
