import { type TextName } from "../design/kinds";
import { type Keyword, placeKeyword, type Vocabulary } from "../keywords/place";
import { wordOffsets } from "../text/fold";
import { charCount } from "../proof/values";
import { findingBit, type FindingId } from "./findings";
import { type Checks } from "./settings";
import { checkWording } from "./wording";

/** One text with what its findings depend on. */
export interface TextCase {
  readonly text: string;
  /** Whether it has room on all its surfaces; slugs always have. */
  readonly fits: boolean;
  /** Room in px on the first surface (characters for slugs), and where the keyword begins in it; -1 where it does not stand. */
  readonly room: number;
  readonly keywordAt: number;
  /** Whether the keyword is seen where the text is cut. */
  readonly keywordSeen: boolean;
  /** Whether another page, of any kind, reads the same; for slugs: has the same address. */
  readonly duplicate: boolean;
  readonly nearDuplicate: boolean;
  /** A bare field of the line had no value. */
  readonly emptyField: boolean;
  /** The item's title, for its description. */
  readonly title: string;
  /** Another text of the item that reads the same. */
  readonly sameAsOther: boolean;
  readonly name: string;
  readonly intro: string;
  readonly path: string;
  /** What a slug's line would make of it, `null` where none is set. */
  readonly told: string | null;
  readonly keyword: Keyword | null;
}

/** What is the same for every text of a site. */
export interface CheckContext {
  readonly checks: Checks;
  readonly vocabulary: Vocabulary;
  readonly siteName: string;
  /** The present year. */
  readonly year: number;
}

/** Where a finding stands in a text: offsets; `null` where it is about the text as a whole. */
export interface FoundText {
  readonly id: FindingId<TextName>;
  readonly from: number | null;
  readonly to: number | null;
}

const BEGINNING = 3;
const H1_SHARE = 0.5;

type TellText = (id: FindingId<TextName>, from: number | null, to: number | null) => void;

/** Finds all that is to be said of one text, whether it is switched on or not. */
export function checkText(subject: TextName, own: TextCase, context: CheckContext, tell: TellText): void {
  const { text } = own;
  if (text === "") {
    tell("missing", null, null);
    return;
  }
  if (own.duplicate) tell("duplicate", null, null);
  if (subject === "slug") checkSlug(own, context, tell);
  else checkProse(subject, own, context, tell);
  checkKeyword(subject, own, context, tell);
}

function checkProse(subject: "title" | "description", own: TextCase, { checks, siteName, year, vocabulary }: CheckContext, tell: TellText): void {
  const { text } = own;
  const [short, long] = subject === "title" ? [checks.shortTitle, checks.longTitle] : [checks.shortDescription, checks.longDescription];
  const length = charCount(text);
  if (!own.fits) tell("too-wide", null, null);
  if (long !== null && length > long) tell("too-many-characters", null, null);
  if (length < short) tell("too-short", null, null);
  if (own.nearDuplicate && !own.duplicate) tell("near-duplicate", null, null);
  if (own.sameAsOther) tell("same-as-other-text", null, null);
  if (own.emptyField) tell("unfilled-field", null, null);
  checkWording(text, year, tell);
  if (subject === "title") {
    const folded = text.toLowerCase();
    const site = siteName.toLowerCase();
    if (site !== "" && folded.includes(site)) {
      const at = folded.indexOf(site);
      if (text.length - site.length < BEGINNING) tell("site-name-only", null, null);
      else if (!checks.siteNameSearched) tell("site-name-needless", at, at + site.length);
    }
    if (own.name !== "" && sharedWords(vocabulary, own.name, text) < H1_SHARE) tell("unlike-h1", null, null);
    return;
  }
  if (!/[.!?…。！？][”’"')\]]*$/u.test(text)) tell("cut-in-sentence", lastWordStart(text), text.length);
  const common = commonBeginning(own.title, text);
  if (common > 0) tell("begins-like-title", 0, common);
  const bare = text.replace(/[\s.…!?]+$/u, "");
  if (bare.length > 20 && own.intro.startsWith(bare)) tell("start-of-body-only", null, null);
}

function checkSlug(own: TextCase, { checks, vocabulary }: CheckContext, tell: TellText): void {
  const { text } = own;
  if (text.length > own.room) tell("too-many-characters", Math.floor(own.room), text.length);
  const { stopWords } = vocabulary.language;
  for (let from = 0, to = 0; from < text.length; from = to + 1) {
    for (to = from; to < text.length && text.charCodeAt(to) !== 45 && text.charCodeAt(to) !== 95; ) to++;
    const word = text.slice(from, to);
    if (stopWords.has(word) || stopWords.has(word.toLowerCase())) tell("stop-words", from, to);
    else if (to - from >= 4 && /^\d+$/.test(word)) tell("numbers", from, to);
  }
  const capital = text.search(/\p{Lu}/u);
  if (capital >= 0) tell("capitals", capital, capital + 1);
  const underscore = text.indexOf("_");
  if (underscore >= 0) tell("underscores", underscore, underscore + 1);
  const foreign = text.search(/[^\x00-\x7f]/);
  if (foreign >= 0) tell("non-ascii", foreign, foreign + 1);
  if (folders(own.path) > checks.depth) tell("too-deep", null, null);
  if (own.told !== null && own.told !== text) tell("unlike-line", null, null);
}

/** How many folders a path's page is in. */
function folders(path: string): number {
  let slashes = 0;
  for (let i = 1; i < path.length - 1; i++) if (path.charCodeAt(i) === 47) slashes++;
  return slashes;
}

function checkKeyword(subject: TextName, own: TextCase, { checks, vocabulary }: CheckContext, tell: TellText): void {
  if (!own.keyword) return;
  const place = placeKeyword(vocabulary, own.keyword, own.text);
  if (place.form === "absent" || place.form === "partial") {
    tell("keyword-absent", null, null);
    return;
  }
  const from = place.char! - 1;
  const to = place.end!;
  if (subject === "slug") return;
  if (place.count > (subject === "title" ? checks.keywordInTitle : checks.keywordInDescription)) tell("keyword-repeated", from, to);
  if (subject === "description") return;
  if (place.form !== "exact") tell("keyword-variant-only", from, to);
  if (!own.keywordSeen) tell("keyword-cut", from, to);
  else if (own.keywordAt > own.room * checks.lateShare || place.word! > checks.lateWord) tell("keyword-late", from, to);
}

/** The share of the distinct words of one text that stand in another, stems compared; 1 where it has no words. */
function sharedWords(vocabulary: Vocabulary, of: string, within: string): number {
  const stems = (text: string) => {
    const offsets = wordOffsets(text);
    const found = new Set<number>();
    for (let i = 0; i < offsets.length; i += 2) {
      const word = vocabulary.word(text.slice(offsets[i], offsets[i + 1]));
      found.add(vocabulary.stemOf[word]!);
    }
    return found;
  };
  const wanted = stems(of);
  if (wanted.size === 0) return 1;
  const there = stems(within);
  let shared = 0;
  for (const stem of wanted) if (there.has(stem)) shared++;
  return shared / wanted.size;
}

/** How far two texts begin with the same words, if those are three at least; otherwise 0. */
function commonBeginning(title: string, text: string): number {
  if (title.slice(0, 4).toLowerCase() !== text.slice(0, 4).toLowerCase()) return 0;
  const [a, b] = [title.toLowerCase().split(" "), text.toLowerCase().split(" ")];
  let words = 0;
  while (words < a.length && words < b.length && a[words]!.replace(/\W+$/, "") === b[words]!.replace(/\W+$/, "")) words++;
  return words < BEGINNING ? 0 : text.split(" ").slice(0, words).join(" ").length;
}

function lastWordStart(text: string): number {
  return text.trimEnd().lastIndexOf(" ") + 1;
}

/** The findings of one text as bits ({@link findingBit}). */
export function textBits(subject: TextName, own: TextCase, context: CheckContext): number {
  let bits = 0;
  checkText(subject, own, context, (id) => {
    bits |= findingBit(subject, id);
  });
  return bits;
}

/** The findings of one text with where they stand, those of one kind as often as they are there. */
export function textFindings(subject: TextName, own: TextCase, context: CheckContext): FoundText[] {
  const found: FoundText[] = [];
  checkText(subject, own, context, (id, from, to) => found.push({ id, from, to }));
  return found.filter(({ id }) => findingBit(subject, id) !== 0);
}
