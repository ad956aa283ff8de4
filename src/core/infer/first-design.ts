import { type Kind, type TextName, textsOf } from "../design/kinds";

/** A field of a kind's pages, as a proposal looks at it. */
export interface SeenField {
  readonly name: string;
  readonly type: "text" | "number" | "date" | "category";
  /** Share of the pages that have it, from 0 to 1. */
  readonly filled: number;
  /** How many different values it has. */
  readonly distinct: number;
  readonly example: string;
}

/** A line that fits what the pages have, with the reason for it; without one the reason for none. */
export interface ProposedLine {
  readonly text: TextName;
  readonly line: string | null;
  readonly why: string;
}

/** A field is used where so many pages have it. */
const MOST_PAGES = 0.6;
const HALF = 0.5;
/** Values of so many characters can stand in a title beside a name. */
const SHORT = 30;
/** So many fields tell pages apart. */
const MOST_APART = 2;

/** Fields that say nothing of a page to a reader, or stand in the lines already. */
const ASIDE = new Set([
  ...["name", "keyword", "category", "category.path", "category.parent", "slug", "id", "body"],
  ...["summary", "intro", "author", "site", "tagline", "sep", "robots", "status"],
]);

/**
 * First lines for a kind, of nothing but what its own pages have: fields that most of them have, in an order that gives way as room
 * gets short, and no words, whatever the language.
 *
 * @param pages how many there are. @param site whether the site has a name.
 */
export function firstDesign(kind: Kind, fields: readonly SeenField[], pages: number, site: boolean): ProposedLine[] {
  const known = new Map(fields.map((field) => [field.name, field]));
  return textsOf(kind).map((text): ProposedLine => {
    if (pages === 1) return { text, line: null, why: "it is one page: write it by hand" };
    if (text === "title") return titleOf(kind, known, pages, site);
    if (text === "description") return descriptionOf(known);
    return { text, line: null, why: "every address stays: a line for slugs would move pages" };
  });
}

type Known = ReadonlyMap<string, SeenField>;

const filled = (known: Known, name: string): number => known.get(name)?.filled ?? 0;

function titleOf(kind: Kind, known: Known, pages: number, site: boolean): ProposedLine {
  const heads = ["name", "keyword"].filter((name) => filled(known, name) > 0);
  const share = Math.max(0, ...heads.map((name) => filled(known, name)));
  if (share < HALF)
    return { text: "title", line: null, why: "fewer than half of the pages have a name or a focus keyword" };
  const names = filled(known, "name") < 1 ? heads : heads.slice(0, 1);
  const reasons = [`${percent(share)} have ${names.map(told).join(" or ")}`];
  let line = `{${names.join(" or ")}}`;
  if (filled(known, "category") >= MOST_PAGES && kind !== "category") {
    line += "[ – {category}]^2";
    reasons.push(`${percent(filled(known, "category"))} a category`);
  }
  const apart = tellingApart([...known.values()], pages);
  for (const { name } of apart) line += `[ – {${name}}]^apart`;
  if (apart.length > 0)
    reasons.push(`${apart.map(({ name }) => `“${name}”`).join(" and ")} where two would read the same`);
  const areNamesShared = (known.get("name")?.distinct ?? pages) < pages;
  if (areNamesShared && filled(known, "id") >= MOST_PAGES) {
    line += "[ – {id}]^apart";
    reasons.push("the id where nothing else tells them apart");
  }
  if (site) {
    line += "[ – {site}]^1";
    reasons.push("the site’s name where there is room");
  }
  return { text: "title", line, why: reasons.join("; ") };
}

function descriptionOf(known: Known): ProposedLine {
  const sources = ["summary", "intro"].filter((name) => filled(known, name) > 0);
  const share = Math.max(0, ...sources.map((name) => filled(known, name)));
  if (share < HALF)
    return {
      text: "description",
      line: null,
      why: "fewer than half of the pages have an excerpt or a first paragraph",
    };
  return {
    text: "description",
    line: `{${sources.join(" or ")}:fit}`,
    why: `${percent(share)} have ${sources.map(told).join(" or ")}, cut to the room at a sentence or a word`,
  };
}

/** Fields of few, short values that most pages have: colours, sizes, makers. Those of which more pages have one first. */
function tellingApart(fields: readonly SeenField[], pages: number): SeenField[] {
  return fields
    .filter(
      ({ name, type, filled: share, distinct, example }) =>
        !ASIDE.has(name) &&
        type === "text" &&
        share >= MOST_PAGES &&
        distinct >= 2 &&
        distinct <= pages / 2 &&
        example.length <= SHORT &&
        !/[/<>{}[\]\\]|https?:/.test(example) &&
        /^[\p{L}\p{N}_.]+$/u.test(name),
    )
    .sort((a, b) => b.filled - a.filled || a.distinct - b.distinct || (a.name < b.name ? -1 : 1))
    .slice(0, MOST_APART);
}

const WORDS: Readonly<Record<string, string>> = {
  name: "a name",
  keyword: "a focus keyword",
  summary: "an excerpt",
  intro: "a first paragraph",
};

const told = (name: string): string => WORDS[name] ?? name;

function percent(share: number): string {
  return share === 1 ? "all pages" : `${Math.floor(share * 100)} % of the pages`;
}
