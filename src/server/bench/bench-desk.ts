import { lastSegment, splitQuery, withoutSlash } from "../../core/addresses/addresses";
import { type KindDesign } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { linesOf } from "../../core/design/change-rules";
import { parseLine } from "../../core/lines/parse";
import { type ExplainedProof, RowProver, type RowProof } from "../../core/proof/row-proof";
import { orderRows } from "../../core/proof/order";
import { type Filter, type Sort } from "../../core/proof/row-views";
import { pieceShares, type PieceShare } from "../../core/proof/piece-shares";
import { unreadFields, type UnreadField } from "../../core/proof/unread";
import { differs } from "../../core/proof/text-proof";
import { summarise, summariseParts, type TextSummary } from "../../core/proof/summary";
import { type RulesReport } from "../../core/rules/report";
import { siteAddresses } from "../workspace/kind-addresses";
import { type FaultyLine, type KnownProof, type Slot } from "../workspace/proofs";
import { ObjectNumbers, Remembered } from "../workspace/remembered";
import { settingsUsed } from "../workspace/settings-used";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { type BenchRow, benchRow, type DrawnRow, type RowView } from "./bench-row";

/** What the proof of a draft says of one text: the draft's figures beside the live ones, of the whole set and of a part of it. */
export interface ProvedText {
  readonly draft: TextSummary;
  readonly live: TextSummary;
  readonly part: { readonly draft: TextSummary; readonly live: TextSummary } | null;
  /** The lines with an error; what they would decide keeps its live text. */
  readonly faults: readonly FaultyLine[];
}

export interface ProvedKind {
  readonly kind: Kind;
  readonly total: number;
  readonly texts: Readonly<Record<TextName, ProvedText>>;
  /** Pages that move for the address line alone: their slug stays. */
  readonly moves: number;
  readonly report: RulesReport;
  /** Of the line in view: on how many items each of its pieces stands. */
  readonly pieces: { readonly items: number; readonly pieces: readonly PieceShare[] } | null;
  /** Of the line in view: fields that are to be numbers or days, where some pages have something else. */
  readonly unread: readonly UnreadField[];
}

/** Which part of a set is looked at: `all`, `base`, or the id of a rule. */
export type ScopeName = string;

/** Which rows are wanted, and in what order. */
export interface RowQuery {
  readonly text: TextName;
  readonly scope: ScopeName;
  readonly sort: Sort;
  readonly filter: Filter;
  readonly search: string;
  readonly from: number;
  readonly count: number;
}

/** What is in view: a text, and a part of the set. */
type View = Pick<RowQuery, "scope" | "text">;

/** So many figures and orders are remembered. */
const MOST_FIGURES = 48;
const MOST_ORDERS = 4;

/** What lines do to a kind's pages, in figures and row by row. */
export class BenchDesk {
  private readonly figures = new Remembered<TextSummary>(MOST_FIGURES);
  private readonly orders = new Remembered<Int32Array>(MOST_ORDERS);
  private readonly moved = new Remembered<number>(MOST_FIGURES);
  private readonly numbers = new ObjectNumbers();

  constructor(private readonly workspace: Workspace) {}

  /** The figures of a design: of each text over the whole set, and of the part that `view` names. */
  prove(
    kind: Kind,
    design: KindDesign,
    watch: WorkWatch = {},
    view: View = { scope: "all", text: "title" },
  ): ProvedKind {
    const { workspace } = this;
    // What the site has is meanwhile proved in another thread, where there is much of it.
    for (const text of TEXTS) workspace.textProof(kind, text, design, watch);
    const texts = Object.fromEntries(
      TEXTS.map((text): [TextName, ProvedText] => {
        const live = workspace.liveProof(kind, text, watch);
        const draft = workspace.textProof(kind, text, design, watch);
        const part = view.scope === "all" ? null : this.part(kind, text, design, view.scope);
        return [
          text,
          { draft: this.whole(kind, text, draft), live: this.whole(kind, text, live), part, faults: draft.faults },
        ];
      }),
    ) as Record<TextName, ProvedText>;
    const total = workspace.data(kind).ids.length;
    const report = workspace.rules(kind).report(design, watch);
    const moves = this.movesAlone(kind, design);
    return { kind, total, texts, moves, report, ...this.ofLine(kind, design, view) };
  }

  /** The figures of a text under a design, over the whole set. */
  summary(kind: Kind, text: TextName, design: KindDesign, slot: Slot = "draft"): TextSummary {
    return this.whole(kind, text, this.workspace.textProof(kind, text, design, {}, slot));
  }

  private whole(kind: Kind, text: TextName, known: KnownProof): TextSummary {
    const live = this.workspace.liveProof(kind, text);
    return this.figures.get(this.stampOf(kind, text, known, live), () =>
      summarise(known.proof, live.proof, this.workspace.lateFrom(text)),
    );
  }

  private stampOf(kind: Kind, text: TextName, known: KnownProof, live: KnownProof): string {
    return [kind, text, settingsUsed.figures(this.workspace.site(), text), known.stamp, live.stamp].join("\n");
  }

  private part(kind: Kind, text: TextName, design: KindDesign, scope: ScopeName): NonNullable<ProvedText["part"]> {
    const { workspace } = this;
    const rules = workspace.rules(kind);
    // A part has the same items as long as what decides each of its texts is the same: where a rule has no line for this
    // text, its pages are told by the others.
    const decides = TEXTS.map((one) => this.numbers.of(rules.decision(design, one).decides));
    const live = workspace.liveProof(kind, text);
    const figures = (known: KnownProof) =>
      this.figures.get([this.stampOf(kind, text, known, live), scope, ...decides].join("\n"), () => {
        const include = rules.scope(design, scope, text)!;
        return summariseParts(known.proof, live.proof, workspace.lateFrom(text), include).part;
      });
    return { draft: figures(workspace.textProof(kind, text, design)), live: figures(live) };
  }

  private ofLine(kind: Kind, design: KindDesign, { scope, text }: View): Pick<ProvedKind, "pieces" | "unread"> {
    const { decision, programs, proof } = this.workspace.textProof(kind, text, design);
    const place = decision.lines.findIndex((line) =>
      scope === "all" || scope === "base" ? line.from === "base" : line.rule?.id === scope,
    );
    const program = programs[place];
    if (!program) return { pieces: null, unread: [] };
    return {
      pieces: program.pieces.length > 0 ? pieceShares(proof, program, place) : null,
      unread: unreadFields(proof, program, place, this.workspace.data(kind).items),
    };
  }

  /** A stretch of a set's rows in the order that is asked for, each with its text as it is drawn. */
  rows(kind: Kind, design: KindDesign, query: RowQuery, watch: WorkWatch = {}): { total: number; rows: DrawnRow[] } {
    this.workspace.textProof(kind, query.text, design, watch);
    const order = this.ordered(kind, design, query);
    const view = this.rowView(kind, query.text, design);
    const stretch = order.subarray(query.from, query.from + query.count);
    const rows = Array.from(stretch, (row) => benchRow(view, row));
    return { total: order.length, rows: this.drawn(rows, design, query.text, view) };
  }

  private drawn(rows: readonly BenchRow[], design: KindDesign, text: TextName, { data }: RowView): DrawnRow[] {
    const lineOf = (owner: string) => {
      const source = linesOf(design, owner)[text];
      return source === undefined ? null : parseLine(source, data.items.known);
    };
    const proofs = new RowProver(this.workspace.site(), this.workspace.words()).prove(rows, lineOf, text);
    return rows.map((row, i) => ({ ...row, drawn: { of: text, ...withoutWhy(proofs[i]!) } }));
  }

  /** One item as the interface gets it, or `null` for one that is not of this kind. */
  item(kind: Kind, design: KindDesign, text: TextName, id: number, watch: WorkWatch = {}): BenchRow | null {
    const row = this.workspace.data(kind, watch).rowOf(id);
    return row < 0 ? null : benchRow(this.rowView(kind, text, design), row);
  }

  /** Two real results for each text, from a quarter and three quarters down the site. */
  examples(kind: Kind, design: KindDesign): Record<TextName, string[]> {
    const data = this.workspace.data(kind);
    const of = (text: TextName) => {
      const { proof } = this.workspace.textProof(kind, text, design);
      return [0.27, 0.77].flatMap((share) => {
        for (let row = Math.floor(proof.size * share), tries = 0; tries < 500 && row < proof.size; row++, tries++)
          if (proof.lengths[row] !== 0) return [(text === "slug" ? data.folder(row) : "") + proof.textOf(row)];
        return [];
      });
    };
    return { title: of("title"), description: of("description"), slug: of("slug") };
  }

  private ordered(kind: Kind, design: KindDesign, query: RowQuery): Int32Array {
    const { text, scope, sort, filter, search } = query;
    const { workspace } = this;
    const known = workspace.textProof(kind, text, design);
    const live = workspace.liveProof(kind, text);
    const decides = scope === "all" ? [] : TEXTS.map((one) => workspace.rules(kind).decision(design, one).decides);
    const stamp = [
      this.stampOf(kind, text, known, live),
      scope,
      sort,
      filter,
      search,
      ...decides.map((own) => this.numbers.of(own)),
    ];
    return this.orders.get(stamp.join("\n"), () =>
      orderRows(
        known.proof,
        live.proof,
        workspace.lateFrom(text),
        sort,
        filter,
        this.matcher(kind, design, query, known),
      ),
    );
  }

  /** Whether a row is of the part that is looked at and holds the words that are searched for; `null` where all are wanted. */
  private matcher(
    kind: Kind,
    design: KindDesign,
    { scope, text, search }: RowQuery,
    { proof }: KnownProof,
  ): ((row: number) => boolean) | null {
    const data = this.workspace.data(kind);
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const part = this.workspace.rules(kind).scope(design, scope, text);
    const holds = (row: number) => {
      const own = `${data.items.value("name", row)} ${proof.textOf(row)} ${data.paths[row]}`.toLowerCase();
      return words.every((word) => own.includes(word));
    };
    if (part === null && words.length === 0) return null;
    return (row) => (part === null || part[row] === 1) && (words.length === 0 || holds(row));
  }

  /** What rows of a kind are made from, under a design. */
  private rowView(kind: Kind, text: TextName, design: KindDesign): RowView {
    const of = (name: TextName) => this.workspace.textProof(kind, name, design);
    const data = this.workspace.data(kind);
    const mayMove = this.workspace.mayMove(kind, design);
    const stays = (row: number) => !mayMove(row);
    return {
      data,
      stays,
      addressOf: this.addressOf(kind, design, stays),
      text,
      known: { title: of("title"), description: of("description"), slug: of("slug") },
      body: [design.base, ...design.rules].some((lines) => TEXTS.some((name) => /\bbody\b/i.test(lines[name] ?? ""))),
    };
  }

  private movesAlone(kind: Kind, design: KindDesign): number {
    if (!design.address?.trim()) return 0;
    const { workspace } = this;
    const draft = workspace.textProof(kind, "slug", design);
    const live = workspace.liveProof(kind, "slug");
    // Folders may be pages of another kind.
    const stamp = [kind, design.address, draft.stamp, live.stamp, this.numbers.of(workspace.pages())];
    return this.moved.get(stamp.join("\n"), () => {
      const { paths } = workspace.data(kind);
      const mayMove = workspace.mayMove(kind, design);
      const addressOf = this.addressOf(kind, design, (row) => !mayMove(row));
      let moves = 0;
      for (let row = 0; row < paths.length; row++) {
        const address = addressOf(row);
        if (address === null || paths[row] === "" || differs(draft.proof, live.proof, row)) continue;
        if (withoutSlash(splitQuery(paths[row]!)[0]) !== withoutSlash(address)) moves++;
      }
      return moves;
    });
  }

  /** The address of a row under a design’s address line, with the slugs that categories have now. */
  private addressOf(kind: Kind, design: KindDesign, stays: RowView["stays"]): RowView["addressOf"] {
    if (!design.address?.trim()) return () => null;
    const { workspace } = this;
    const pages = workspace.pages();
    const { shaped, isShaped } = siteAddresses(workspace, [kind], { [kind]: design }, pages.startOf);
    if (!isShaped(kind)) return () => null;
    const { proof } = workspace.textProof(kind, "slug", design);
    const first = pages.startOf.get(kind)!;
    const slugOf = (page: number) => lastSegment(pages.paths[page]!);
    return (row) => {
      const slug = proof.lengths[row] === 0 ? lastSegment(pages.paths[first + row]!) : proof.textOf(row);
      if (stays(row) || slug === "") return null;
      return shaped.folder(first + row, slugOf) + shaped.last(first + row, slug, slugOf);
    };
  }
}

function withoutWhy({ why: _, ...drawn }: ExplainedProof): RowProof {
  return drawn;
}
