import { type TextName } from "../design/kinds";

/** What a finding is about: one of an item's texts, or the page as a whole. */
export type Subject = TextName | "page";

/** Something wrong or worth a look: what it is, why it matters, how to mend it. It is there or not; there is no score. */
export interface FindingKind {
  readonly id: string;
  /** What it is, in a few words. */
  readonly label: string;
  /** Why it matters, in a sentence. */
  readonly why: string;
  readonly mend: string;
}

const kind = <const I extends string>(id: I, label: string, why: string, mend: string) => ({ id, label, why, mend });

/** Findings that any text can have. */
const ANY = [
  kind(
    "missing",
    "Missing",
    "A page without the text gets whatever a search engine makes up for it.",
    "Set a line for it, or write one by hand.",
  ),
  kind(
    "too-wide",
    "Too wide",
    "What is beyond the room is cut off, and nobody reads it.",
    "Give pieces a number so that they give way, or shorten what always stands.",
  ),
  kind(
    "too-many-characters",
    "Too many characters",
    "It is beyond the limit that this site has set itself.",
    "Shorten it, or change the limit in the settings.",
  ),
  kind(
    "too-short",
    "Too short",
    "A short text leaves room unused in which it could tell this page from others.",
    "Add a piece that says more.",
  ),
  kind(
    "duplicate",
    "Duplicate",
    "Pages that read the same compete with each other, and nobody can tell them apart.",
    "Add an ^apart piece, or make a rule for the group.",
  ),
  kind(
    "near-duplicate",
    "Nearly the same as another",
    "But for a word or two it reads like another page's.",
    "Say what sets this page apart.",
  ),
  kind(
    "same-as-other-text",
    "Same as another text of the page",
    "Two texts that say the same waste one of them.",
    "Let each say something of its own.",
  ),
  kind("repeated-words", "A word twice in a row", "It reads like a slip, and mostly is one.", "Take one of them out."),
  kind(
    "shouting",
    "Shouting",
    "Words in capitals are hard to read and look like spam.",
    "Use the filter sentence or title.",
  ),
  kind(
    "dangling-separator",
    "Dangling separator",
    "A separator that parts nothing shows that a field was empty.",
    "Put the separator into a piece with its field.",
  ),
  kind("double-space", "Double space", "It shows that something was left out, or typed in haste.", "Take one out."),
  kind(
    "entities-or-tags",
    "Left-over code",
    "Entities and tags are shown as they are written, and break the snippet.",
    "Bring the plain text in, or write it anew.",
  ),
  kind(
    "straight-quotes",
    "Straight quotes",
    "They can end an attribute early, and they are not what is set in print.",
    "Use “ ” and ’ instead.",
  ),
  kind(
    "control-characters",
    "Invisible characters",
    "They break searching and copying, and nobody sees why.",
    "Write the text anew.",
  ),
  kind(
    "unfilled-field",
    "Unfilled field",
    "A mark or an empty place stands where a value should.",
    "Put the field into a piece, or give it another one to fall back on.",
  ),
  kind("past-year", "A year that has passed", "It makes the page look old.", "Take the year out, or update it."),
  kind(
    "broken-unicode",
    "Broken characters",
    "They are shown as boxes or question marks.",
    "Bring the text in again in UTF-8.",
  ),
] as const;

/** Findings about the focus keyword that titles, descriptions and slugs share. */
const ABSENT = kind(
  "keyword-absent",
  "Keyword absent",
  "Who searches for it does not see that this page has it.",
  "Put {keyword} or a field that holds it into the line.",
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
      "keyword-variant-only",
      "Only a variant of the keyword",
      "The words that people search for do not stand as they are searched for.",
      "Use the keyword as it is.",
    ),
    kind(
      "keyword-late",
      "Keyword late",
      "The front of a title counts most, and it is what is read.",
      "Move the keyword to the front.",
    ),
    kind(
      "keyword-cut",
      "Keyword behind the cut",
      "It is there, and nobody sees it.",
      "Move the keyword forward, or shorten what stands before it.",
    ),
    kind("keyword-repeated", "Keyword more than once", "Said again and again it reads like spam.", "Say it once."),
    kind(
      "site-name-only",
      "Site name only",
      "It says whose the page is, and nothing about the page.",
      "Set a line for it.",
    ),
    kind(
      "site-name-needless",
      "Site name where nobody searches for it",
      "It takes room from what people do search for.",
      "Take it out of this kind's line.",
    ),
    kind(
      "unlike-h1",
      "Says something else than the H1",
      "Title, H1 and address that say the same reinforce each other.",
      "Let the title begin with the name.",
    ),
  ],
  description: [
    ...ANY,
    ABSENT,
    kind(
      "keyword-repeated",
      "Keyword more than twice",
      "Said again and again it reads like spam.",
      "Say it once or twice.",
    ),
    kind(
      "cut-in-sentence",
      "Cut within a sentence",
      "The last words that are seen lead nowhere.",
      "Use the filter fit, sentences or words.",
    ),
    kind(
      "begins-like-title",
      "Begins like the title",
      "It tells again what is read just above it.",
      "Begin with something else.",
    ),
    kind(
      "start-of-body-only",
      "Only the start of the body",
      "A search engine would take that by itself.",
      "Say why to come to this page.",
    ),
  ],
  slug: [
    kind("missing", "Missing", "A page without a slug has no address of its own.", "Set a line for it."),
    kind(
      "too-many-characters",
      "Too long",
      "Long addresses are cut where they are shown, and seldom typed or passed on.",
      "Take words out, or change the limit in the settings.",
    ),
    kind("duplicate", "Clash", "Two pages cannot have one address.", "Add an ^apart piece."),
    kind(
      "reserved",
      "A reserved word",
      "The site itself answers at that address.",
      "Put something into its line that sets the page apart.",
    ),
    kind(
      "stop-words",
      "Stop words",
      "They add length and say nothing.",
      "Switch on dropping stop words for this site.",
    ),
    kind(
      "numbers",
      "Numbers or a date",
      "They age, and mostly say nothing to a reader.",
      "Switch on dropping numbers, or take the field out.",
    ),
    kind(
      "capitals",
      "Capitals",
      "On many servers two spellings are two pages.",
      "Set a line: slugs it makes are in lower case.",
    ),
    kind(
      "underscores",
      "Underscores",
      "Words joined by them count as one word.",
      "Set a line: its words are joined by hyphens.",
    ),
    kind(
      "non-ascii",
      "Letters beyond ASCII",
      "They are shown in codes where the address is passed on.",
      "Set a line, with transliteration on.",
    ),
    ABSENT,
    kind(
      "too-deep",
      "Too deep",
      "Folders that are not needed make an address long and hard to keep.",
      "Give the kind a flatter path.",
    ),
    kind(
      "unlike-line",
      "Not what its line makes",
      "The address was changed elsewhere, or the line was.",
      "Review the move, and apply it.",
    ),
  ],
  page: [
    kind(
      "no-keyword",
      "No focus keyword",
      "Without one nobody knows what the page is to be found for.",
      "Give it one under Keywords.",
    ),
    kind(
      "keyword-shared",
      "Keyword of another page, too",
      "Pages with one keyword compete with each other.",
      "Keep it here and give the other page another.",
    ),
    kind(
      "keyword-not-in-h1",
      "Keyword not in the H1",
      "Title, H1 and address that say the same reinforce each other.",
      "Put it into the page's name.",
    ),
    kind(
      "keyword-not-in-intro",
      "Keyword not in the first paragraph",
      "A reader wants to see at once that the page is the right one.",
      "Say it in the first paragraph.",
    ),
    kind("keyword-not-in-body", "Keyword not in the body", "A page is found for what it speaks of.", "Speak of it."),
    kind(
      "keyword-too-often",
      "Keyword too often in the body",
      "It reads like spam.",
      "Use other words for some of them.",
    ),
    kind(
      "keyword-not-in-subheadings",
      "Keyword in no subheading",
      "Subheadings are read before anything else.",
      "Put it into one of them.",
    ),
    kind(
      "keyword-not-in-images",
      "Keyword in no image description",
      "Pictures are found by what is said of them.",
      "Describe one of them with it.",
    ),
    kind(
      "image-undescribed",
      "An image without a description",
      "Who cannot see it, and who looks for pictures, knows nothing of it. Looked for where image descriptions are switched on.",
      "Write a line for image descriptions, or one by hand.",
    ),
    kind(
      "noindex-with-title",
      "Not indexed, with a title worth having",
      "Somebody wrote a good title for a page that nobody can find.",
      "Let it be indexed, or save the work.",
    ),
    kind(
      "indexable-by-name",
      "Indexed, though its name says it should not be",
      "Contact, privacy and thank-you pages take the place of those that matter.",
      "Set it to noindex.",
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
