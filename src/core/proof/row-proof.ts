import { slugRulesOf } from "../slugs/site-rules";
import { type Vocabulary } from "../keywords/place";
import { drawnKeyword, type DrawnKeyword, vocabularyOf } from "./drawn-keyword";
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

/**
 * Proves rows, each against the line that decides it; a line with errors, or none, leaves what the site has. It is what the proof of the
 * whole set says of them, in the browser while a line is typed as on the server.
 */
export class RowProver {
  private readonly programs = new WeakMap<Line, Program>();
  /** The rows that were proved last: those on screen stay while a line is typed. */
  private last: { readonly rows: readonly ProvableRow[]; readonly items: ItemSet } | null = null;

  /** @param words the vocabulary of the site's language, where there is one already. */
  constructor(
    private readonly site: Site,
    private readonly words: Vocabulary = vocabularyOf(site),
  ) {}

  /** A text of rows of one kind. */
  prove(rows: readonly ProvableRow[], lineOf: LineOf, text: TextName): ExplainedProof[] {
    const { site } = this;
    const limits = limitsOf(site, text);
    const room = roomFor(limits);
    const slug = text === "slug" ? slugRulesOf(site) : null;
    const items = this.itemsOf(rows);
    const setters = new Map<string, LineSetter | null>();
    const setterOf = (owner: string): LineSetter | null => {
      let setter = setters.get(owner);
      if (setter === undefined) {
        const line = lineOf(owner);
        setter =
          line && line.errors.length === 0 && line.source.trim() !== ""
            ? new LineSetter(this.programOf(line), items, room, slug)
            : null;
        setters.set(owner, setter);
      }
      return setter;
    };
    return rows.map((row, i): ExplainedProof => {
      const hand = row.hand[text];
      // A row that nothing decided yet may be decided by a base line that was only just begun.
      const owner = row.by[text] ?? "base";
      const setter = hand === undefined && !(slug && row.stays) ? setterOf(owner) : null;
      setter?.set(i, row.apart[text]);
      const made = setter ? setter.text : (hand ?? row.live[text]);
      return {
        ...this.drawn(row, text, made, setter),
        from: hand !== undefined ? "hand" : setter ? "line" : "live",
        owner: setter ? owner : null,
        why: setter ? steps(setter, (field) => valueOf(setter, items, field, i)) : [],
      };
    });
  }

  private drawn(
    row: ProvableRow,
    text: TextName,
    made: string,
    setter: LineSetter | null,
  ): Omit<RowProof, "from" | "owner"> {
    const { site, words } = this;
    const { surfaces } = limitsOf(site, text);
    const surface = surfaces[0] ?? null;
    const isSlug = text === "slug";
    const fits = setter
      ? setter.fits
      : isSlug
        ? made.length <= site.slug.max
        : surfaces.every((own) => fitsSurface(own, made));
    const size = widthOf(surface, isSlug, made);
    const over = fits ? 0 : setter && !isSlug ? setter.over() : Math.max(0, size - roomOf(site, text).width);
    const estimated = surface !== null && advanceByGrapheme(fontById(surface.font), made).estimated;
    const keyword = drawnKeyword(site, row.fields["keyword"] ?? "", made, surface, isSlug, words);
    return { text: made, size, fits, over, estimated, keyword };
  }

  private programOf(line: Line): Program {
    let program = this.programs.get(line);
    if (!program) this.programs.set(line, (program = compileLine(line, new Map([["sep", this.site.sep]]))));
    return program;
  }

  /** The rows as a set of items. */
  private itemsOf(rows: readonly ProvableRow[]): ItemSet {
    const { site, last } = this;
    if (last?.rows.length === rows.length && last.rows.every((row, i) => row === rows[i])) return last.items;
    const reading = { writing: writingOf(site), formats: rows[0] && site.formats[rows[0].kind], areClean: true };
    const fields = rows.map((row) => row.fields);
    const items = itemSetOf(fields, siteConstants(site), reading);
    this.last = { rows, items };
    return items;
  }
}

const provers = new WeakMap<Site, RowProver>();

/** The prover of a site as it is: with other settings it is another one. */
export function rowProverOf(site: Site): RowProver {
  let prover = provers.get(site);
  if (!prover) provers.set(site, (prover = new RowProver(site)));
  return prover;
}

function valueOf(setter: LineSetter, items: ItemSet, field: number, row: number): string {
  const column = items.fieldColumn(setter.program.fields[field]!);
  return column.table.values[column.codes[row]!]!;
}
