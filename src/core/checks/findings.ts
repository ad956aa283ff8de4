import { type TextName } from "../design/kinds";

/** What a finding is about: one of an item's texts, or the page as a whole. */
export type Subject = TextName | "page";

/** What a finding asks for: to be put right at once, to be looked at, or, being small, to be put right along with something else. */
export const FINDING_ASKS = ["now", "look", "small"] as const;
export type FindingAsk = (typeof FINDING_ASKS)[number];

/** Something wrong or worth a look: what it is, why it matters, how to mend it. It is there or not; there is no score. */
export interface FindingKind {
  readonly id: string;
  readonly asks: FindingAsk;
  /** What it is, in a few words. */
  readonly label: string;
  /** Why it matters, in a sentence. */
  readonly why: string;
  readonly mend: string;
}

const kind = <const I extends string>(asks: FindingAsk, id: I, label: string, why: string, mend: string) => ({
  ...{ id, asks, label, why, mend },
});

/** Findings that any text can have. */
const ANY = [
  kind(
    "now",
    "missing",
    "Missing",
    "A page without the text gets whatever a search engine makes up for it.",
    "Set a line for it, or write one by hand.",
  ),
  kind(
    "now",
    "too-wide",
    "Too wide",
    "Whatever does not fit is cut off, and nobody reads it.",
    "Number some pieces so that they can be dropped, or shorten the fixed text.",
  ),
  kind(
    "look",
    "too-many-characters",
    "Too many characters",
    "It is longer than the limit set for this site.",
    "Shorten it, or change the limit in the settings.",
  ),
  kind(
    "look",
    "too-short",
    "Too short",
    "There is unused room for words that set this page apart from others.",
    "Add a piece that says more.",
  ),
  kind(
    "now",
    "duplicate",
    "Duplicate",
    "Pages with the same text compete with each other, and people cannot tell which is which.",
    "Add an ^apart piece, or make a rule for the group.",
  ),
  kind(
    "look",
    "near-duplicate",
    "Nearly the same as another",
    "It differs from another page’s text by a word or two only.",
    "Say what sets this page apart.",
  ),
  kind(
    "look",
    "same-as-other-text",
    "Same as another text of the page",
    "When two texts say the same, one of them is wasted.",
    "Make each say something of its own.",
  ),
  kind(
    "small",
    "repeated-words",
    "A word twice in a row",
    "It looks like a slip, and usually is.",
    "Remove one of them.",
  ),
  kind(
    "look",
    "shouting",
    "Shouting",
    "Words in capitals are hard to read and look like spam.",
    "Use the filter sentence or title.",
  ),
  kind(
    "small",
    "dangling-separator",
    "Dangling separator",
    "A separator with nothing on one side shows that a field was empty.",
    "Put the separator into a piece with its field.",
  ),
  kind("small", "double-space", "Double space", "It suggests a missing word or hasty typing.", "Remove one."),
  kind(
    "now",
    "entities-or-tags",
    "Left-over code",
    "Entities and tags show up as code and break the snippet.",
    "Import it as plain text, or write it again.",
  ),
  kind(
    "small",
    "straight-quotes",
    "Straight quotes",
    "They can end an HTML attribute early, and are not proper typography.",
    "Use “ ” and ’ instead.",
  ),
  kind(
    "small",
    "control-characters",
    "Invisible characters",
    "They break searching and copying, and nobody can see why.",
    "Type the text again.",
  ),
  kind(
    "now",
    "unfilled-field",
    "Unfilled field",
    "A placeholder or a gap is where a value should be.",
    "Put the field into a piece, or add a fallback with “or”.",
  ),
  kind("look", "past-year", "A year that has passed", "It makes the page look old.", "Remove the year, or update it."),
  kind(
    "now",
    "broken-unicode",
    "Broken characters",
    "They appear as boxes or question marks.",
    "Import the text again as UTF-8.",
  ),
] as const;

/** Findings about the focus keyword that titles, descriptions and slugs share. */
const ABSENT = kind(
  "look",
  "keyword-absent",
  "Keyword absent",
  "People who search for it do not see that this page has it.",
  "Add {keyword}, or a field that contains it, to the line.",
);

/** Findings of what the site has now, or of what the drafts make of it. */
export type Side = "live" | "draft";
export const SIDES = ["live", "draft"] as const satisfies readonly Side[];

/** Findings by what they are about, in the order in which they are told. At most 31 each: a row's are the bits of a number. */
export const FINDINGS = {
  title: [
    ...ANY,
    ABSENT,
    kind(
      "look",
      "keyword-variant-only",
      "Only a variant of the keyword",
      "The words people search for are there, but in another form.",
      "Use the exact keyword.",
    ),
    kind(
      "look",
      "keyword-late",
      "Keyword late",
      "The start of a title counts most, and it is what people read.",
      "Move the keyword to the front.",
    ),
    kind(
      "now",
      "keyword-cut",
      "Keyword cut off",
      "It is in the text, but nobody sees it.",
      "Move the keyword forward, or shorten the text before it.",
    ),
    kind("look", "keyword-repeated", "Keyword more than once", "Repetition reads like spam.", "Use it once."),
    kind(
      "now",
      "site-name-only",
      "Site name only",
      "It says whose page it is, but nothing about the page.",
      "Set a line for it.",
    ),
    kind(
      "small",
      "site-name-needless",
      "Site name where nobody searches for it",
      "It takes room from words people do search for.",
      "Remove it from this kind’s line.",
    ),
    kind(
      "look",
      "unlike-h1",
      "Differs from the H1",
      "Title, H1 and address that say the same reinforce each other.",
      "Let the title begin with the name.",
    ),
  ],
  description: [
    ...ANY,
    ABSENT,
    kind("look", "keyword-repeated", "Keyword more than twice", "Repetition reads like spam.", "Use it once or twice."),
    kind(
      "look",
      "cut-in-sentence",
      "Cut within a sentence",
      "The last visible words stop mid-sentence.",
      "Use the filter fit, sentences or words.",
    ),
    kind(
      "look",
      "begins-like-title",
      "Begins like the title",
      "It repeats what is shown just above it.",
      "Begin with something else.",
    ),
    kind(
      "look",
      "start-of-body-only",
      "Only the start of the body",
      "A search engine would use that anyway.",
      "Give a reason to visit this page.",
    ),
  ],
  slug: [
    kind("now", "missing", "Missing", "A page without a slug has no address of its own.", "Set a line for it."),
    kind(
      "look",
      "too-many-characters",
      "Too long",
      "Long addresses are cut in results and seldom typed or shared.",
      "Remove words, or change the limit in the settings.",
    ),
    kind("now", "duplicate", "Clash", "Two pages cannot have one address.", "Add an ^apart piece."),
    kind(
      "now",
      "reserved",
      "A reserved word",
      "The site itself uses that address.",
      "Add something to its line that sets the page apart.",
    ),
    kind(
      "small",
      "stop-words",
      "Stop words",
      "They add length and say nothing.",
      "Switch on dropping stop words for this site.",
    ),
    kind(
      "small",
      "numbers",
      "Numbers or a date",
      "They date quickly and mostly tell readers nothing.",
      "Switch on dropping numbers, or remove the field.",
    ),
    kind(
      "small",
      "capitals",
      "Capitals",
      "On many servers two spellings are two pages.",
      "Set a line: slugs it makes are in lower case.",
    ),
    kind(
      "small",
      "underscores",
      "Underscores",
      "Words joined by them count as one word.",
      "Set a line: its words are joined by hyphens.",
    ),
    kind(
      "small",
      "non-ascii",
      "Letters beyond ASCII",
      "They turn into codes when the address is shared.",
      "Set a line, with transliteration on.",
    ),
    ABSENT,
    kind(
      "look",
      "too-deep",
      "Too deep",
      "Needless folders make addresses long and hard to maintain.",
      "Give the kind a flatter path.",
    ),
    kind(
      "look",
      "unlike-line",
      "Not what its line makes",
      "The address was changed elsewhere, or the line was.",
      "Review the move, and apply it.",
    ),
  ],
  page: [
    kind(
      "look",
      "no-keyword",
      "No focus keyword",
      "Without one, nothing can be checked against what people search for.",
      "Give it one in Keywords.",
    ),
    kind(
      "look",
      "keyword-shared",
      "Keyword shared with another page",
      "Pages with the same keyword compete with each other.",
      "Keep it here and give the other page a different one.",
    ),
    kind(
      "look",
      "keyword-not-in-h1",
      "Keyword not in the H1",
      "Title, H1 and address that say the same reinforce each other.",
      "Put it into the page's name.",
    ),
    kind(
      "look",
      "keyword-not-in-intro",
      "Keyword not in the first paragraph",
      "Readers want to see at once that they are in the right place.",
      "Mention it in the first paragraph.",
    ),
    kind(
      "look",
      "keyword-not-in-body",
      "Keyword not in the body",
      "A page is found for what it talks about.",
      "Write about it.",
    ),
    kind(
      "look",
      "keyword-too-often",
      "Keyword too often in the body",
      "It reads like spam.",
      "Replace some of them with other words.",
    ),
    kind(
      "small",
      "keyword-not-in-subheadings",
      "Keyword in no subheading",
      "Subheadings are read before anything else.",
      "Use it in one of them.",
    ),
    kind(
      "small",
      "keyword-not-in-images",
      "Keyword in no image description",
      "Images are found by their descriptions.",
      "Use it to describe one of them.",
    ),
    kind(
      "look",
      "image-undescribed",
      "An image without a description",
      "People who cannot see it, and image search, know nothing about it. Checked only where image descriptions are on.",
      "Write a line for image descriptions, or one by hand.",
    ),
    kind(
      "look",
      "noindex-with-title",
      "Not indexed, with a title worth having",
      "It has a good title, but search engines may not list it.",
      "Set it to index, or leave the title alone.",
    ),
    kind(
      "now",
      "indexable-by-name",
      "Indexed, though its name says it should not be",
      "Contact, privacy and thank-you pages compete with those that matter.",
      "Set it to noindex.",
    ),
    kind(
      "now",
      "canonical-broken",
      "Canonical that leads nowhere",
      "A search engine told to list an address that is not there may list neither.",
      "Give it the address of a page, or none: then it is the page’s own.",
    ),
    kind(
      "look",
      "canonical-redirected",
      "Canonical to a redirect",
      "The page it names has moved, and search engines may disregard it.",
      "Name the address that the redirect leads to.",
    ),
    kind(
      "now",
      "canonical-not-indexed",
      "Canonical to a page that is not indexed",
      "It asks for another page to be listed that must not be, so that neither is.",
      "Set that page to index, or name another one.",
    ),
    kind(
      "look",
      "canonical-chain",
      "Canonical to a page with another canonical",
      "Search engines follow one step at most, and may disregard it.",
      "Name the page at the end of the chain.",
    ),
    kind(
      "look",
      "canonical-at-odds",
      "Canonical with another scheme or www than the site’s",
      "It names an address that redirects, or a second copy of the site.",
      "Write it as the site’s own address is written, or as a path.",
    ),
  ],
} as const satisfies Record<Subject, readonly FindingKind[]>;

/** The id of a finding about something. */
export type FindingId<S extends Subject = Subject> = (typeof FINDINGS)[S][number]["id"];

const bitsOf = (kinds: readonly FindingKind[]) => new Map(kinds.map(({ id }, i) => [id, 1 << i]));
const BITS: Readonly<Record<Subject, ReadonlyMap<string, number>>> = {
  title: bitsOf(FINDINGS.title),
  description: bitsOf(FINDINGS.description),
  slug: bitsOf(FINDINGS.slug),
  page: bitsOf(FINDINGS.page),
};

/**
 * The bit of a finding among those about the same thing; 0 where it is not about it.
 *
 * @example (bits & findingBit("title", "missing")) !== 0
 */
export function findingBit(subject: Subject, id: FindingId): number {
  return BITS[subject].get(id) ?? 0;
}

/** The ids of the findings in a row's bits. */
export function findingIds(subject: Subject, bits: number): FindingId[] {
  return FINDINGS[subject].filter((_, i) => (bits & (1 << i)) !== 0).map(({ id }) => id);
}

/** What findings are about, in the order in which they are shown. */
export const SUBJECTS = Object.keys(FINDINGS) as Subject[];
