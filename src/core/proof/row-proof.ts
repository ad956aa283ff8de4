import { slugRulesOf } from "../slugs/site-rules";
import { type Vocabulary } from "../keywords/place";
import { drawnKeyword, type DrawnKeyword, vocabularyFor } from "./drawn-keyword";
import { roomOf } from "./site-room";
import { widthOf } from "../measure/running-width";
import { limitsOf, type Site, siteConstants, writingOf } from "../design/design";
import { type Kind, type TextName } from "../design/kinds";
import { type Line } from "../lines/ast";
import { compileLine, type Program } from "../lines/program";
import { advanceByGrapheme } from "../measure/advance";
import { fontById } from "../measure/font";
import { fitsSurface } from "../measure/wrap";
import { type Step, steps } from "./explain";
import { type ItemSet, itemSetOf } from "./items";
import { roomFor } from "./room";
import { LineSetter } from "./setter";

/** What is needed of a page to prove one of its texts, where the whole set is not there. */
export interface ProvableRow {
  readonly kind: Kind;
  readonly fields: Readonly<Record<string, string>>;
  readonly live: Readonly<Record<TextName, string>>;
  readonly hand: Readonly<Partial<Record<TextName, string>>>;
  /** How many `^apart` pieces of each text's line stand at most: that depends on the whole set. */
  readonly apart: Readonly<Record<TextName, number>>;
  /** The rule that decides each text, by its id; `base` for the base, `null` where nothing sets it. */
  readonly by: Readonly<Record<TextName, string | null>>;
  /** Whether no line sets its slug: it has an address, and those are to stay. */
  readonly stays: boolean;
}

/** A text of one page as it is drawn: on a row, or in a result. */
export interface RowProof {
  readonly text: string;
  readonly from: "hand" | "line" | "live";
  /** Whose line made it: a rule's id, `base`, or `null` where none did. */
  readonly owner: string | null;
  /** Running width in px; characters for slugs. */
  readonly size: number;
  readonly fits: boolean;
  readonly over: number;
  readonly estimated: boolean;
  readonly keyword: DrawnKeyword | null;
}

/** The same with how it came about; there is nothing to say of a text by hand, or of one that no line sets. */
export interface ExplainedProof extends RowProof {
  readonly why: readonly Step[];
}

/** The parsed line that a rule (by its id) or the base sets for a text; `null` where none is set. */
export type LineOf = (owner: string) => Line | null;

const programs = new WeakMap<Line, Program>();

function programOf(line: Line, site: Site): Program {
  let program = programs.get(line);
  if (!program) programs.set(line, (program = compileLine(line, new Map([["sep", site.sep]]))));
  return program;
}

let lastSet: { rows: readonly ProvableRow[]; site: Site; items: ItemSet } | null = null;

/** The rows, of one kind, as a set of items; the last one is kept, since rows on screen stay while a line is typed. */
function itemsOf(rows: readonly ProvableRow[], site: Site): ItemSet {
  const same =
    lastSet &&
    lastSet.site === site &&
    lastSet.rows.length === rows.length &&
    lastSet.rows.every((row, i) => row === rows[i]);
  if (!same)
    lastSet = {
      rows,
      site,
      items: itemSetOf(
        rows.map((row) => row.fields),
        siteConstants(site),
        { writing: writingOf(site), formats: rows[0] && site.formats[rows[0].kind], areClean: true },
      ),
    };
  return lastSet!.items;
}

/**
 * Proves rows of one kind, each against the line that decides it; one with errors, or none, leaves what the site has. It is what the proof of
 * the whole set says of them, in the browser while a line is typed as on the server.
 *
 * @param words the vocabulary of the site's language, where there is one already.
 */
export function proveRows(
  rows: readonly ProvableRow[],
  lineOf: LineOf,
  text: TextName,
  site: Site,
  words: Vocabulary = vocabularyFor(site.language),
): ExplainedProof[] {
  const limits = limitsOf(site, text);
  const room = roomFor(limits);
  const slug = text === "slug" ? slugRulesOf(site) : null;
  const items = itemsOf(rows, site);
  const setters = new Map<string, LineSetter | null>();
  const setterOf = (owner: string): LineSetter | null => {
    let setter = setters.get(owner);
    if (setter === undefined) {
      const line = lineOf(owner);
      setter =
        line && line.errors.length === 0 && line.source.trim() !== ""
          ? new LineSetter(programOf(line, site), items, room, slug)
          : null;
      setters.set(owner, setter);
    }
    return setter;
  };
  const surface = limits.surfaces[0] ?? null;
  return rows.map((row, i): ExplainedProof => {
    const hand = row.hand[text];
    // A row that nothing decided yet may be decided by a base line that was only just begun.
    const owner = row.by[text] ?? "base";
    const setter = hand === undefined && !(slug && row.stays) ? setterOf(owner) : null;
    setter?.set(i, row.apart[text]);
    const made = setter ? setter.text : (hand ?? row.live[text]);
    const why = setter ? steps(setter, (field) => valueOf(setter, items, field, i)) : [];
    const fits = setter
      ? setter.fits
      : slug
        ? made.length <= site.slug.max
        : limits.surfaces.every((s) => fitsSurface(s, made));
    const size = widthOf(surface, slug !== null, made);
    const over = fits ? 0 : setter && !slug ? setter.over() : Math.max(0, size - roomOf(site, text).width);
    const estimated = surface !== null && advanceByGrapheme(fontById(surface.font), made).estimated;
    const from = hand !== undefined ? "hand" : setter ? "line" : "live";
    return {
      text: made,
      from,
      owner: setter ? owner : null,
      size,
      fits,
      over,
      estimated,
      keyword: drawnKeyword(site, row.fields["keyword"] ?? "", made, surface, slug !== null, words),
      why,
    };
  });
}

function valueOf(setter: LineSetter, items: ItemSet, field: number, row: number): string {
  const column = items.fieldColumn(setter.program.fields[field]!);
  return column.table.values[column.codes[row]!]!;
}
