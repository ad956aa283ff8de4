import { type TextName } from "../design/kinds";
import { type Form, type Keyword, placeKeyword, type Vocabulary } from "../keywords/place";
import { FOLDED_WORD, wordOffsets } from "../text/fold";
import { charCount } from "../text/char-count";
import { findingBit, type FindingId } from "./findings";
import { type Checks } from "./schema";
import { type SlugFault } from "./slug-fault-ids";
import { type Language } from "../text/language";
import { checkWording } from "./wording";

/** One text with what its findings depend on. */
export interface TextCase {
  readonly text: string;
  /** Whether it has room on all its surfaces; slugs always have. */
  readonly fits: boolean;
  /** Room in px on the first surface (characters for slugs), and where the keyword begins in it; -1 where it does not stand. */
  readonly room: number;
  readonly keywordAt: number;
  /** How the keyword stands in the text, `null` where there is none. */
  readonly form: Form | null;
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
  /** Slugs that no page may have. */
  readonly reserved: ReadonlySet<string>;
  /** The present year. */
  readonly year: number;
}

/** Where a finding stands in a text: offsets; `null` where it is about the text as a whole. */
export interface FoundText {
  readonly id: FindingId<TextName>;
  readonly from: number | null;
  readonly to: number | null;
}

/** Stop words of no language are longer. */
const LONGEST_STOP_WORD = 16;
const BEGINNING = 3;
const H1_SHARE = 0.5;

type TellText = (id: FindingId<TextName>, from: number | null, to: number | null) => void;

/**
 * Finds all that is to be said of one text, whether it is switched on or not.
 *
 * @param wording whether its wording is looked at, too: where not, {@link wordingBits} says that part.
 */
export function checkText(
  subject: TextName,
  own: TextCase,
  context: CheckContext,
  tell: TellText,
  wording = true,
): void {
  const { text } = own;
  if (text === "") {
    tell("missing", null, null);
    return;
  }
  if (own.duplicate) tell("duplicate", null, null);
  if (subject === "slug") checkSlug(own, context, tell);
  else checkProse(subject, own, context, tell, wording);
  checkKeyword(subject, own, context, tell);
}

function checkProse(
  subject: "title" | "description",
  own: TextCase,
  { checks, siteName, year, vocabulary }: CheckContext,
  tell: TellText,
  wording: boolean,
): void {
  const { text } = own;
  const [short, long] =
    subject === "title" ? [checks.shortTitle, checks.longTitle] : [checks.shortDescription, checks.longDescription];
  const length = charCount(text);
  if (!own.fits) tell("too-wide", null, null);
  if (long !== null && length > long) tell("too-many-characters", null, null);
  if (length < short) tell("too-short", null, null);
  if (own.nearDuplicate && !own.duplicate) tell("near-duplicate", null, null);
  if (own.sameAsOther) tell("same-as-other-text", null, null);
  if (own.emptyField) tell("unfilled-field", null, null);
  if (wording) checkWording(text, year, tell);
  if (subject === "title") {
    const site = siteName.toLowerCase();
    const at = site === "" ? -1 : text.toLowerCase().indexOf(site);
    if (at >= 0) {
      if (text.length - site.length < BEGINNING) tell("site-name-only", null, null);
      else if (!checks.siteNameSearched) tell("site-name-needless", at, at + site.length);
    }
    if (own.name !== "" && !text.startsWith(own.name) && sharedWords(vocabulary, own.name, text) < H1_SHARE)
      tell("unlike-h1", null, null);
    return;
  }
  if (!endsSentence(text)) tell("cut-in-sentence", lastWordStart(text), text.length);
  const common = commonBeginning(own.title, text);
  if (common > 0) tell("begins-like-title", 0, common);
  if (own.intro !== "" && own.intro.charCodeAt(0) === text.charCodeAt(0) && isStartOf(own.intro, text))
    tell("start-of-body-only", null, null);
}

function checkSlug(own: TextCase, { checks, vocabulary, reserved }: CheckContext, tell: TellText): void {
  const { text } = own;
  if (reserved.size > 0 && reserved.has(text.toLowerCase())) tell("reserved", null, null);
  checkSlugItself(own, { depth: checks.depth, language: vocabulary.language }, tell);
  if (own.told !== null && own.told !== text) tell("unlike-line", null, null);
}

/** What a slug is checked against by itself. */
export interface SlugBounds {
  /** Most folders above a page. */
  readonly depth: number;
  readonly language: Pick<Language, "stopWords">;
}

/** Tells what is wrong with a slug whatever other pages and its line are. */
export function checkSlugItself(
  { text, room, path }: Pick<TextCase, "text" | "room" | "path">,
  { depth, language: { stopWords } }: SlugBounds,
  tell: (id: SlugFault, from: number | null, to: number | null) => void,
): void {
  if (text.length > room) tell("too-many-characters", Math.floor(room), text.length);
  for (let from = 0, to = 0; from < text.length; from = to + 1) {
    for (to = from; to < text.length && text.charCodeAt(to) !== 45 && text.charCodeAt(to) !== 95;) to++;
    if (mayBeStopWord(stopWords, text, from, to) && stopWords.has(text.slice(from, to).toLowerCase()))
      tell("stop-words", from, to);
    else if (to - from >= 4 && isDigit(text.charCodeAt(from)) && /^\d+$/.test(text.slice(from, to)))
      tell("numbers", from, to);
  }
  let [capital, underscore, foreign] = [-1, -1, -1];
  for (let i = text.length - 1; i >= 0; i--) {
    const code = text.charCodeAt(i);
    if (code === 95) underscore = i;
    else if (code > 127) foreign = i;
    if (code >= 65 && code <= 90) capital = i;
    else if (code > 127 && /\p{Lu}/u.test(text[i]!)) capital = i;
  }
  if (capital >= 0) tell("capitals", capital, capital + 1);
  if (underscore >= 0) tell("underscores", underscore, underscore + 1);
  if (foreign >= 0) tell("non-ascii", foreign, foreign + 1);
  if (folders(path) > depth) tell("too-deep", null, null);
}

const isDigit = (code: number) => code >= 48 && code <= 57;

const beginnings = new WeakMap<ReadonlySet<string>, Uint8Array>();

/** Whether some stop word is as long as a stretch of a text and begins alike: most words are none, and this is soon told. */
function mayBeStopWord(stopWords: ReadonlySet<string>, text: string, from: number, to: number): boolean {
  let table = beginnings.get(stopWords);
  if (!table) {
    beginnings.set(stopWords, (table = new Uint8Array((LONGEST_STOP_WORD + 1) * 128)));
    for (const word of stopWords)
      if (word.length <= LONGEST_STOP_WORD) table[word.length * 128 + (word.charCodeAt(0) & 127)] = 1;
  }
  const code = text.charCodeAt(from);
  return (
    to - from <= LONGEST_STOP_WORD &&
    table[(to - from) * 128 + ((code >= 65 && code <= 90 ? code + 32 : code) & 127)] === 1
  );
}

/** How many folders a path's page is in. */
function folders(path: string): number {
  let slashes = 0;
  for (let i = 1; i < path.length - 1; i++) if (path.charCodeAt(i) === 47) slashes++;
  return slashes;
}

function checkKeyword(subject: TextName, own: TextCase, { checks, vocabulary }: CheckContext, tell: TellText): void {
  if (!own.keyword) return;
  if (own.form === "absent" || own.form === "partial") {
    tell("keyword-absent", null, null);
    return;
  }
  if (subject === "slug") return;
  const place = placeKeyword(vocabulary, own.keyword, own.text);
  const from = place.char! - 1;
  const to = place.end!;
  if (place.count > (subject === "title" ? checks.keywordInTitle : checks.keywordInDescription))
    tell("keyword-repeated", from, to);
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

/** Whether a text ends as a sentence does, brackets and quotation marks behind it aside. */
function endsSentence(text: string): boolean {
  let end = text.length - 1;
  while (end >= 0 && CLOSING.includes(text[end]!)) end--;
  return end >= 0 && SENTENCE_ENDS.includes(text[end]!);
}

const CLOSING = "”’\"')]";
const SENTENCE_ENDS = ".!?…。！？";
/** A start of so few characters may be the same by chance. */
const FEW = 20;

/** Whether a text, but for the marks at its end, is how another begins. */
function isStartOf(whole: string, text: string): boolean {
  let end = text.length;
  while (end > 0 && ".…!? ".includes(text[end - 1]!)) end--;
  return end > FEW && whole.startsWith(text.slice(0, end));
}

/** How far two texts begin with the same words, marks behind them aside, if those are three at least; otherwise 0. */
function commonBeginning(title: string, text: string): number {
  let [a, b, words, end] = [0, 0, 0, 0];
  while (a < title.length && b < text.length) {
    const [endA, endB] = [wordEnd(title, a), wordEnd(text, b)];
    if (!sameWord(title, a, endA, text, b, endB)) break;
    words++;
    end = endB;
    a = endA + 1;
    b = endB + 1;
  }
  return words < BEGINNING ? 0 : end;
}

function wordEnd(text: string, from: number): number {
  const end = text.indexOf(" ", from);
  return end < 0 ? text.length : end;
}

/** Whether two stretches are the same word, case and what stands behind its last letter or digit aside. */
function sameWord(a: string, fromA: number, toA: number, b: string, fromB: number, toB: number): boolean {
  const [endA, endB] = [bareEnd(a, fromA, toA), bareEnd(b, fromB, toB)];
  if (endA - fromA !== endB - fromB) return false;
  for (let i = 0; i < endA - fromA; i++) {
    const [one, other] = [a.charCodeAt(fromA + i), b.charCodeAt(fromB + i)];
    if (one !== other && FOLDED_WORD[one] !== FOLDED_WORD[other]) return false;
  }
  return true;
}

function bareEnd(text: string, from: number, to: number): number {
  let end = to;
  while (end > from && FOLDED_WORD[text.charCodeAt(end - 1)] === 0) end--;
  return end;
}

function lastWordStart(text: string): number {
  return text.trimEnd().lastIndexOf(" ") + 1;
}

/** The findings of one text as bits ({@link findingBit}). */
export function textBits(subject: TextName, own: TextCase, context: CheckContext, wording = true): number {
  const gatherer = new BitGatherer(subject);
  checkText(subject, own, context, gatherer.tell, wording);
  return gatherer.bits;
}

/** The findings of a text's wording alone as bits: what {@link textBits} leaves out where it is told to. */
export function wordingBits(subject: "title" | "description", text: string, year: number): number {
  const gatherer = new BitGatherer(subject);
  checkWording(text, year, gatherer.tell);
  return gatherer.bits;
}

/** Puts the findings that it is told together as bits. */
class BitGatherer {
  bits = 0;

  constructor(private readonly subject: TextName) {}

  readonly tell: TellText = (id) => {
    this.bits |= findingBit(this.subject, id);
  };
}

/** The findings of one text with where they stand, those of one kind as often as they are there. */
export function textFindings(subject: TextName, own: TextCase, context: CheckContext): FoundText[] {
  const found: FoundText[] = [];
  checkText(subject, own, context, (id, from, to) => found.push({ id, from, to }));
  return found.filter(({ id }) => findingBit(subject, id) !== 0);
}
