import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type TextName } from "../design/kinds";
import { placeKeyword, Vocabulary } from "../keywords/place";
import { languageByTag } from "../text/language";
import {
  canonicalBits,
  contentBits,
  imageBits,
  indexingBits,
  type NamedByCanonical,
  type PageCase,
} from "./check-page";
import { type CheckContext, type TextCase, textBits, textFindings } from "./check-text";
import { findingBit, type FindingId, findingIds, FINDINGS, SUBJECTS } from "./findings";
import { CHECK_DEFAULTS, checksSchema } from "./schema";
import { switchedOn } from "./settings";

const vocabulary = new Vocabulary(languageByTag("en"));
const context: CheckContext = {
  checks: CHECK_DEFAULTS,
  vocabulary,
  siteName: "Fennick & Dray",
  reserved: new Set(["basket"]),
  year: 2026,
};
const keyword = vocabulary.keyword("mooring cleat")!;
const basis: TextCase = {
  text: "",
  fits: true,
  room: 600,
  keywordAt: 0,
  form: null,
  keywordSeen: true,
  duplicate: false,
  nearDuplicate: false,
  emptyField: false,
  title: "Mooring cleat in bronze, 200 mm",
  sameAsOther: false,
  name: "Mooring cleat, 200 mm",
  intro: "Cast in our own foundry.",
  path: "/cleats/mooring-cleat-bronze",
  told: null,
  keyword,
};

/** A text of each kind in which nothing is wrong. */
const GOOD: Record<TextName, TextCase> = {
  title: { ...basis, text: "Mooring cleat in bronze, 200 mm – Deck fittings" },
  description: {
    ...basis,
    text: "Our bronze mooring cleat is cast and finished by hand. It takes two lines of 24 mm, and it leaves our loft the same day.",
  },
  slug: { ...basis, room: 60, text: "mooring-cleat-bronze" },
};

/** Where the keyword stands is known of a text before it is checked. */
const withForm = (own: TextCase): TextCase => ({
  ...own,
  form: own.keyword && placeKeyword(vocabulary, own.keyword, own.text).form,
});
const found = (subject: TextName, change: Partial<TextCase>, checks: Partial<CheckContext["checks"]> = {}) =>
  textFindings(subject, withForm({ ...GOOD[subject], ...change }), {
    ...context,
    checks: { ...CHECK_DEFAULTS, ...checks },
  });
const ids = (subject: TextName, change: Partial<TextCase>, checks?: Partial<CheckContext["checks"]>) => [
  ...new Set(found(subject, change, checks).map(({ id }) => id)),
];

const ANY_PROSE: readonly [FindingId, Partial<TextCase>][] = [
  ["missing", { text: "" }],
  ["too-wide", { fits: false }],
  ["too-short", { text: "Mooring cleat." }],
  ["duplicate", { duplicate: true }],
  ["near-duplicate", { nearDuplicate: true }],
  ["same-as-other-text", { sameAsOther: true }],
  ["unfilled-field", { emptyField: true }],
];
const WORDING: readonly [FindingId, string][] = [
  ["repeated-words", " for for boats."],
  [
    "shouting",
    " BUY ONE NOW FROM THE ONLY LOFT THAT MAKES THEM BY HAND AND EYE FOR EVERY BOAT AFLOAT AND ASHORE, ALL YEAR ROUND, AT ONE FAIR PRICE FOR EVERYBODY.",
  ],
  ["dangling-separator", " – "],
  ["dangling-separator", " | – deck."],
  ["double-space", "  sold singly."],
  ["entities-or-tags", " &amp; fixings."],
  ["entities-or-tags", " <b>new</b>."],
  ["straight-quotes", ' "new".'],
  ["control-characters", " new\u200f."],
  ["unfilled-field", " {finish}."],
  ["unfilled-field", " ()."],
  ["past-year", " of 2019."],
  ["broken-unicode", " \ud800."],
  ["broken-unicode", " cafÃ©."],
];

const page: PageCase = {
  keyword,
  keywordPages: 1,
  name: "Mooring cleat, 200 mm",
  intro: "A mooring cleat cast by hand.",
  body: {
    text: `Our mooring cleat. ${"Finished by hand and eye in the old loft. ".repeat(12)}`,
    subheadings: ["Fitting a mooring cleat"],
    images: ["A mooring cleat on deck"],
  },
  noindex: false,
  goodTitle: true,
  path: "/cleats/mooring-cleat",
};
const pageIds = (change: Partial<PageCase>): string[] => {
  const own = { ...page, ...change };
  const images = imageBits(own.keyword, own.body?.images ?? [], context);
  return findingIds("page", contentBits(own, context) | indexingBits(own, context) | images);
};

const PAGES: readonly [FindingId, Partial<PageCase>][] = [
  ["no-keyword", { keyword: null }],
  ["keyword-shared", { keywordPages: 2 }],
  ["keyword-not-in-h1", { name: "Bronze fitting" }],
  ["keyword-not-in-intro", { intro: "Cast by hand." }],
  ["keyword-not-in-body", { body: { ...page.body!, text: "Cast by hand." } }],
  ["keyword-too-often", { body: { ...page.body!, text: "Mooring cleat. A mooring cleat. The mooring cleat." } }],
  ["keyword-not-in-subheadings", { body: { ...page.body!, subheadings: ["Fitting"] } }],
  ["keyword-not-in-images", { body: { ...page.body!, images: ["", "A deck"] } }],
  ["image-undescribed", { body: { ...page.body!, images: ["A mooring cleat on deck", ""] } }],
  ["noindex-with-title", { noindex: true }],
  ["indexable-by-name", { name: "Contact" }],
  ["indexable-by-name", { path: "/thank-you/" }],
];

const NAMED: NamedByCanonical = { leads: "page", isAtOdds: false, isUnindexed: false, namesAnother: false };
const CANONICALS: readonly [FindingId, Partial<NamedByCanonical>][] = [
  ["canonical-broken", { leads: "nowhere" }],
  ["canonical-redirected", { leads: "redirect" }],
  ["canonical-not-indexed", { isUnindexed: true }],
  ["canonical-chain", { namesAnother: true }],
  ["canonical-at-odds", { isAtOdds: true }],
];
it.each(CANONICALS)("a canonical: %s, and nothing else", (id, change) => {
  expect(findingIds("page", canonicalBits({ ...NAMED, ...change }))).toEqual([id]);
  expect(canonicalBits(NAMED)).toBe(0);
  expect(canonicalBits({ ...NAMED, leads: "own", isUnindexed: true, namesAnother: true })).toBe(0);
});

describe("findings of a text", () => {
  it.each(["title", "description", "slug"] as const)("are none where nothing is wrong: %s", (subject) =>
    expect(ids(subject, {})).toEqual([]),
  );

  it.each(
    (["title", "description"] as const).flatMap((subject) =>
      ANY_PROSE.map(([id, change]) => [subject, id, change] as const),
    ),
  )("%s: %s", (subject, id, change) => expect(ids(subject, change)).toContain(id));

  it.each(
    (["title", "description"] as const).flatMap((subject) =>
      WORDING.map(([id, added]) => [subject, id, added] as const),
    ),
  )("%s: %s in …%j", (subject, id, added) => {
    const text = GOOD[subject].text.replace(/\.$/, "") + added;
    const [first] = found(subject, { text }).filter((one) => one.id === id);
    expect(first).toBeDefined();
    if (id !== "shouting") expect(first!.to!).toBeGreaterThan(GOOD[subject].text.length - 2);
  });

  const TITLES: readonly [FindingId, Partial<TextCase>, Partial<CheckContext["checks"]>][] = [
    ["too-many-characters", {}, { longTitle: 40 }],
    ["keyword-absent", { text: "Bronze fitting for the deck, 200 mm" }, {}],
    ["keyword-absent", { text: "Bronze mooring ring for the deck" }, {}],
    ["keyword-variant-only", { text: "Mooring cleats in bronze, 200 mm" }, {}],
    ["keyword-variant-only", { text: "Cleat for mooring, in bronze, 200 mm" }, {}],
    ["keyword-late", { keywordAt: 220 }, {}],
    ["keyword-late", { text: "Hand made in the old way: mooring cleat, 200 mm" }, {}],
    ["keyword-cut", { keywordSeen: false }, {}],
    ["keyword-repeated", { text: "Mooring cleat, the mooring cleat of 200 mm" }, {}],
    ["site-name-only", { text: "Fennick & Dray" }, {}],
    ["site-name-needless", { text: "Mooring cleat, 200 mm – Fennick & Dray" }, { siteNameSearched: false }],
    ["unlike-h1", { name: "Galvanised chain hook with swivel" }, {}],
  ];
  it.each(TITLES)("title: %s %j", (id, change, checks) => {
    expect(ids("title", change, checks)).toContain(id);
  });

  const DESCRIPTIONS: readonly [FindingId, Partial<TextCase>, Partial<CheckContext["checks"]>][] = [
    ["too-many-characters", {}, { longDescription: 100 }],
    ["keyword-absent", { text: GOOD.description.text.replace("mooring cleat", "fitting") }, {}],
    ["keyword-repeated", { text: `${GOOD.description.text} A mooring cleat like no mooring cleat.` }, {}],
    ["cut-in-sentence", { text: GOOD.description.text.slice(0, 90) }, {}],
    ["begins-like-title", { text: `Mooring cleat in bronze: ${GOOD.description.text}` }, {}],
    ["start-of-body-only", { intro: `${GOOD.description.text} And more.` }, {}],
  ];
  it.each(DESCRIPTIONS)("description: %s", (id, change, checks) => {
    expect(ids("description", change, checks)).toContain(id);
  });

  const SLUGS: readonly [FindingId, Partial<TextCase>][] = [
    ["missing", { text: "" }],
    ["duplicate", { duplicate: true }],
    ["too-many-characters", { room: 12 }],
    ["reserved", { text: "Basket" }],
    ["stop-words", { text: "the-mooring-cleat" }],
    ["numbers", { text: "2023-04-mooring-cleat" }],
    ["numbers", { text: "mooring-cleat-10043" }],
    ["capitals", { text: "Mooring-cleat" }],
    ["underscores", { text: "mooring_cleat" }],
    ["non-ascii", { text: "mooring-cleat-größe" }],
    ["keyword-absent", { text: "bronze-fitting" }],
    ["too-deep", { path: "/a/b/c/d/e/mooring-cleat-bronze" }],
    ["unlike-line", { told: "bronze-cleat" }],
  ];
  it.each(SLUGS)("slug: %s %j", (id, change) => expect(ids("slug", change)).toContain(id));

  it("each have an example here: one that no check tells is none", () => {
    const prose = [...ANY_PROSE, ...WORDING];
    const shown = {
      title: [...prose, ...TITLES],
      description: [...prose, ...DESCRIPTIONS],
      slug: SLUGS,
      page: [...PAGES, ...CANONICALS],
    };
    for (const subject of SUBJECTS)
      expect(new Set(shown[subject].map(([id]) => id)), subject).toEqual(
        new Set(FINDINGS[subject].map(({ id }) => id)),
      );
  });

  it("say where they stand", () => {
    const text = "Mooring cleat in in bronze, 200 mm – Deck fittings";
    const [repeated] = found("title", { text });
    expect(text.slice(repeated!.from!, repeated!.to!)).toBe("in in");
  });

  it("of a description that begins like its title: three words, marks aside", () => {
    const begins = (text: string) => found("description", { text }).filter(({ id }) => id === "begins-like-title");
    expect(begins("Mooring cleat of ours, cast and finished by hand, in two sizes for boats of any length.")).toEqual(
      [],
    );
    const three = "Mooring cleat, in gunmetal: cast and finished by hand, in two sizes for boats of any length.";
    expect(begins(three)).toEqual([{ id: "begins-like-title", from: 0, to: "Mooring cleat, in".length }]);
  });

  it("leave alone what looks like them", () => {
    const left = (text: string) => ids("title", { text, keyword: null, name: "" });
    expect(left("Bronze cleat: 200–230 mm, made in 1902 – by hand")).toEqual([]);
    expect(left("Rope 10 10 mm (new) & twine, ½ price, 5 < 6 for 3000 boats")).toEqual([]);
    expect(left("NATO flag and RNLI ensign for a boat, sewn")).toEqual([]);
    expect(ids("description", { text: `${GOOD.description.text.slice(0, -1)}!”` })).toEqual([]);
    expect(ids("slug", { text: "mooring-cleat-200-mm", told: "mooring-cleat-200-mm" })).toEqual([]);
  });

  it("are the same as bits, and every one can be switched off", () => {
    for (const subject of ["title", "description", "slug", "page"] as const) {
      expect(FINDINGS[subject].length).toBeLessThanOrEqual(31);
      const all = FINDINGS[subject].reduce((bits, { id }) => bits | findingBit(subject, id), 0);
      expect(findingIds(subject, all)).toEqual(FINDINGS[subject].map(({ id }) => id));
      expect(switchedOn(CHECK_DEFAULTS, subject)).toBe(all);
      expect(
        switchedOn(checksSchema.parse({ off: FINDINGS[subject].map(({ id }) => `${subject} ${id}`) }), subject),
      ).toBe(0);
    }
    fc.assert(
      fc.property(
        fc.constantFrom("title", "description", "slug" as const),
        fc.string({ unit: fc.constantFrom(...'aB 1-_|–,"&;{}ü'.split("")), maxLength: 40 }),
        fc.boolean(),
        (subject, text, duplicate) => {
          const own = { ...GOOD[subject], text, duplicate };
          const listed = new Set(textFindings(subject, own, context).map(({ id }) => id));
          expect(new Set(findingIds(subject, textBits(subject, own, context)))).toEqual(listed);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it("have words for what, why and how to mend", () => {
    for (const kind of Object.values(FINDINGS).flat()) {
      expect(kind.why).toMatch(/\.$/);
      expect(kind.mend).toMatch(/\.$/);
      expect(kind.label).not.toMatch(/\.$/);
    }
  });
});

describe("findings of a page", () => {
  it("are none where nothing is wrong", () => expect(pageIds({})).toEqual([]));

  it.each(PAGES)("%s", (id, change) => expect(pageIds(change)).toContain(id));

  it.each([{ name: "Oar" }, { path: "/oar" }, { name: "", path: "/" }])(
    "say nothing of a short name that is none of those that are not indexed: %j",
    (change) => expect(pageIds({ keyword: null, ...change })).not.toContain("indexable-by-name"),
  );

  it("say nothing of a body that was not brought in", () => expect(pageIds({ body: null })).toEqual([]));
});

describe("what lies on the bound", () => {
  it("of broken characters: the first and the last pair there is are whole", () => {
    for (const pair of ["\u{10000}", "\u{103ff}", "\u{10ffff}"])
      expect(ids("title", { text: `${GOOD.title.text} ${pair}` })).not.toContain("broken-unicode");
    for (const half of ["\ud800", "\udbff", "\udc00", "\udfff", "\ud800\ud800"])
      expect(ids("title", { text: `${GOOD.title.text} ${half}` })).toContain("broken-unicode");
  });

  it("of titles unlike their H1: half of its words is enough", () => {
    const named = (name: string) => ids("title", { name }).includes("unlike-h1");
    expect(named("Bronze cleat galvanised hook")).toBe(false);
    expect(named("Bronze chain galvanised hook")).toBe(true);
  });
});
