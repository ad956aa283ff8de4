/**
 * Abbreviations that lead to what follows them, in lower case and less their last full stop: a sentence does not end with one,
 * and a text does not either. Those of all languages together: none of them is a common word of another language.
 */
const LEADING = new Set(
  `mr mrs ms dr prof rev hon capt lt col gen sgt mme mlle sra dhr mevr hrn
  e.g i.e viz vs cf approx ca c.a excl incl inkl exkl ex max min bzgl z.b d.h u.a v.a o.ä z.t i.d.r ggf evtl
  p.ej p.ex por.ej bijv d.w.z o.a m.m f.eks t.ex bl.a`.split(/\s+/),
);

/** Abbreviations that a number follows; before anything else they may be the end of a sentence. */
const BEFORE_NUMBERS = new Set("no nos nr n.º núm art fig vol p pp pg s bd kap abb size gr st".split(" "));

/** Languages that write a day of a month with a full stop: „am 3. Mai“. */
const POINTED_DAYS = new Set(["de", "da", "nb", "fi"]);

/**
 * Whether a word, as it stands before its full stop, leads to what follows.
 *
 * @example isLeadingAbbreviation("Mr") // true
 */
export function isLeadingAbbreviation(word: string): boolean {
  return LEADING.has(word.toLowerCase().replace(/^[^\p{L}]+/u, ""));
}

/**
 * Whether a stretch that ends like a sentence goes on behind it.
 *
 * @param language the first part of a BCP 47 tag.
 * @example goesOn("Made for Mr. ", "Smith.", "en") // true
 */
export function goesOn(before: string, after: string, language: string): boolean {
  const stretch = before.trimEnd();
  if (!stretch.endsWith(".")) return false;
  const last = lastWord(stretch, stretch.length - 1);
  if (last === "") return false;
  if (isLeadingAbbreviation(last)) return true;
  if (/^\p{Ll}/u.test(after)) return true;
  if (/^\p{N}/u.test(after)) return BEFORE_NUMBERS.has(last.toLowerCase().replace(/^[^\p{L}]+/u, ""));
  // The initials of a name: “Captain J. Hook”, “J. R. Hartley”; not “in size M. Colours vary”.
  if (/^\p{Lu}$/u.test(last) && /^\p{Lu}/u.test(after)) {
    const previous = stretch.slice(0, stretch.length - 1 - last.length).trimEnd();
    return previous === "" || /^\p{Lu}/u.test(lastWord(previous, previous.length));
  }
  return POINTED_DAYS.has(language) && /^\d{1,2}$/.test(last) && /^\p{Lu}\p{Ll}/u.test(after);
}

const SPACE = /\s/;

/** The word that ends at an offset, `""` where a space or nothing stands before it. */
function lastWord(text: string, end: number): string {
  let start = end;
  while (start > 0 && !SPACE.test(text.charAt(start - 1))) start--;
  return text.slice(start, end);
}
