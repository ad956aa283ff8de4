import { type Keyword, placeKeyword, type Vocabulary } from "../keywords/place";
import { countWords } from "../text/fold";
import { type HtmlParts } from "../text/plain";
import { findingBit, type FindingId } from "./findings";
import { type CheckContext } from "./check-text";

/** What a page says, as far as its findings depend on it. */
export interface PageContent {
  readonly keyword: Keyword | null;
  /** How many pages of the site have this keyword, this one included. */
  readonly keywordPages: number;
  readonly name: string;
  readonly intro: string;
  /** `null` where the page has no body, or none was brought in: nothing is said of it then. */
  readonly body: HtmlParts | null;
}

/** Whether a page may be indexed, and what its findings depend on besides. */
export interface PageIndexing {
  readonly noindex: boolean;
  /** Whether its title is there and has no finding of its own. */
  readonly goodTitle: boolean;
  readonly name: string;
  readonly path: string;
}

/** One page with what its findings depend on. */
export type PageCase = PageContent & PageIndexing;

type TellPage = (id: FindingId<"page">) => void;

function checkIndexing(own: PageIndexing, context: CheckContext, tell: TellPage): void {
  if (own.noindex && own.goodTitle) tell("noindex-with-title");
  if (!own.noindex && isUnindexedByName(own, context.checks.unindexed)) tell("indexable-by-name");
}

function checkContent(own: PageContent, context: CheckContext, tell: TellPage): void {
  if (!own.keyword) {
    tell("no-keyword");
    return;
  }
  const stands = (text: string) => isIn(context.vocabulary, own.keyword!, text);
  if (own.keywordPages > 1) tell("keyword-shared");
  if (!stands(own.name)) tell("keyword-not-in-h1");
  if (own.intro !== "" && !stands(own.intro)) tell("keyword-not-in-intro");
  if (!own.body) return;
  const { text, subheadings, images } = own.body;
  const { count } = placeKeyword(context.vocabulary, own.keyword, text);
  const words = countWords(text);
  if (count === 0) tell("keyword-not-in-body");
  else if (words > 0 && (count * own.keyword.words.length) / words > context.checks.keywordShare)
    tell("keyword-too-often");
  if (subheadings.length > 0 && !subheadings.some(stands)) tell("keyword-not-in-subheadings");
  if (images.length > 0 && !images.some(stands)) tell("keyword-not-in-images");
}

/** The findings that what is said of a page's images decides, as bits. */
export const IMAGE_BITS = findingBit("page", "keyword-not-in-images") | findingBit("page", "image-undescribed");

/** Of those the ones that a page has. @param alts what is said of each of its images, `""` for nothing. */
export function imageBits(keyword: Keyword | null, alts: readonly string[], { vocabulary }: CheckContext): number {
  if (alts.length === 0) return 0;
  const lacksKeyword = keyword !== null && !alts.some((alt) => isIn(vocabulary, keyword, alt));
  return (
    (lacksKeyword ? findingBit("page", "keyword-not-in-images") : 0) |
    (alts.includes("") ? findingBit("page", "image-undescribed") : 0)
  );
}

function isIn(vocabulary: Vocabulary, keyword: Keyword, text: string): boolean {
  const { form } = placeKeyword(vocabulary, keyword, text);
  return form !== "absent" && form !== "partial";
}

/** Whether a word of the list is the page's name, or the last part of its address. */
function isUnindexedByName({ name, path }: PageIndexing, words: readonly string[]): boolean {
  let longest = 0;
  for (let i = 0; i < words.length; i++) longest = Math.max(longest, words[i]!.length);
  const end = path.endsWith("/") ? path.length - 1 : path.length;
  const start = path.lastIndexOf("/", end - 1) + 1;
  const own = name.length <= longest + 2 ? name.toLowerCase().trim() : "";
  const last = end - start <= longest ? path.slice(start, end).toLowerCase().replace(/[-_]+/g, " ") : "";
  return (own !== "" || last !== "") && words.some((word) => word !== "" && (own === word || last === word));
}

/** What a page’s canonical names: the page itself or another site, a page of this one, a path that redirects, or nothing. */
export interface NamedByCanonical {
  readonly leads: "own" | "page" | "redirect" | "nowhere";
  /** Whether its scheme, or `www.`, is not the site’s. */
  readonly isAtOdds: boolean;
  /** Whether the page that it names may not be indexed, and whether that one names another page itself. */
  readonly isUnindexed: boolean;
  readonly namesAnother: boolean;
}

/** The findings of a page’s canonical as bits ({@link findingBit}). */
export function canonicalBits({ leads, isAtOdds, isUnindexed, namesAnother }: NamedByCanonical): number {
  return (
    (isAtOdds ? findingBit("page", "canonical-at-odds") : 0) |
    (leads === "nowhere" ? findingBit("page", "canonical-broken") : 0) |
    (leads === "redirect" ? findingBit("page", "canonical-redirected") : 0) |
    (leads === "page" && isUnindexed ? findingBit("page", "canonical-not-indexed") : 0) |
    (leads === "page" && namesAnother ? findingBit("page", "canonical-chain") : 0)
  );
}

/** The findings of what a page says as bits ({@link findingBit}). */
export function contentBits(own: PageContent, context: CheckContext): number {
  let bits = 0;
  checkContent(own, context, (id) => {
    bits |= findingBit("page", id);
  });
  return bits;
}

/** The findings of a page's being indexed or not as bits ({@link findingBit}). */
export function indexingBits(own: PageIndexing, context: CheckContext): number {
  let bits = 0;
  checkIndexing(own, context, (id) => {
    bits |= findingBit("page", id);
  });
  return bits;
}
