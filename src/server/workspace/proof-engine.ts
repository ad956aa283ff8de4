import { type KindDesign, limitsOf, type Site, siteConstants } from "../../core/design/design";
import { BOARD_KINDS, type ExtraName, type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { parseLine } from "../../core/lines/parse";
import { compileLine, type Program } from "../../core/lines/program";
import { Vocabulary } from "../../core/keywords/place";
import { type Filter, orderRows, type Sort } from "../../core/proof/order";
import { pieceShares, type PieceShare } from "../../core/proof/piece-shares";
import { type ProofSource, SetProver, type Watch } from "../../core/proof/prove-set";
import { roomFor } from "../../core/proof/room";
import { summarise, summariseParts, type TextSummary } from "../../core/proof/summary";
import { type From, type TextProof } from "../../core/proof/text-proof";
import { type Robots, readRobots } from "../../core/design/robots";
import { type Decision } from "../../core/rules/decide";
import { type RulesReport } from "../../core/rules/report";
import { languageByTag } from "../../core/text/language";
import { type Db } from "../../store/open";
import { readSite, revision } from "../../store/site";
import { htmlParts } from "../../core/text/plain";
import { type Side } from "../../core/checks/findings";
import { iterateBodies, touchedSince } from "../../store/items";
import { type KindData, loadKind } from "./kind-data";
import { KindRules } from "./kind-rules";
import { type BenchRow, benchRow, type RowView } from "../bench/bench-row";

/** A line that is not applied: whose it is, and what is wrong with it. */
export interface FaultyLine {
  /** The rule's id, or `null` for the base. */
  readonly rule: string | null;
  readonly message: string;
}

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
  readonly report: RulesReport;
  /** Of the line in view: on how many items each of its pieces stands. */
  readonly pieces: { readonly items: number; readonly pieces: readonly PieceShare[] } | null;
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

/** How far a call of the engine is, where it takes long: what is done, and how much of it from 0 to 1. */
export interface EngineProgress {
  readonly step: "loading" | "proving" | "checking" | "weighing" | "comparing";
  readonly kind: Kind;
  /** Which text, where one is proved or checked. */
  readonly text: TextName | null;
  /** The site's texts, or the drafts'. */
  readonly side: Side | null;
  readonly share: number;
}

/** How a call of the engine is watched. */
export interface EngineWatch {
  readonly cancelled?: (() => boolean) | undefined;
  readonly progress?: ((progress: EngineProgress) => void) | undefined;
}

/** A text's proof under a design, with what it took to make it. */
export interface KnownProof {
  readonly key: string;
  readonly proof: TextProof;
  readonly decision: Decision;
  readonly programs: readonly (Program | null)[];
  readonly faults: readonly FaultyLine[];
}

/** The figures of a part, and what decided its texts' lines when they were counted. */
interface CountedPart {
  readonly decides: readonly Int16Array[];
  readonly figures: TextSummary;
}

/** Figures of a proof that were asked for once: of the whole set, and of parts of it by name. */
interface KnownFigures {
  whole: TextSummary | null;
  readonly parts: Map<ScopeName, CountedPart>;
}

/** What lines make of an extra text. */
export interface ProvedExtra {
  /** Pages that it is for. */
  readonly pages: number;
  /** Images without a description on them. */
  readonly images: number;
  /** Pages of which the lines make something. */
  readonly filled: number;
  /** Of those the ones that read like another. */
  readonly same: number;
  /** Characters of the longest. */
  readonly longest: number;
  readonly faults: readonly FaultyLine[];
  readonly examples: readonly { readonly name: string; readonly text: string }[];
}

const bareImages = new WeakMap<KindData, Int32Array>();

/** A row's robots setting, where it is from, and the rule's name. */
export type RobotsOf = (row: number) => { readonly value: Robots; readonly from: From; readonly rule: string | null };

/** Two designs of one kind can be held side by side: what is drafted, and what it is compared with. */
export type Slot = "draft" | "other";

/** What the site has now, proved; `stale` where some of it changed since. */
interface LiveProof {
  readonly prover: SetProver;
  proof: TextProof;
  summary: TextSummary;
  stale: boolean;
}

interface KindProofs {
  readonly data: KindData;
  readonly rules: KindRules;
  readonly live: Map<TextName, LiveProof>;
  readonly provers: Map<string, SetProver>;
  readonly known: Map<string, KnownProof>;
}

/** The figures of so many parts of sets are remembered. */
const MOST_PARTS = 12;

/** Holds a site's items in memory and proves drafts over whole sets; what a change does not touch is not proved again. */
export class ProofEngine {
  private readonly kinds = new Map<Kind, KindProofs>();
  private order: { key: string; rows: Int32Array } | null = null;
  private readonly liveParts = new Map<string, CountedPart>();
  private vocabulary: Vocabulary | null = null;
  private siteSeen: Site | null = null;

  constructor(private readonly db: Db) {}

  site(): Site {
    const site = readSite(this.db);
    if (!site) throw new Error("There is no site yet: bring one in or load the demo site");
    // The store gives the same object as long as the settings are the same.
    if (site !== this.siteSeen) {
      this.siteSeen = site;
      this.kinds.clear();
      this.forgetViews();
      this.vocabulary = new Vocabulary(languageByTag(site.language));
    }
    return site;
  }

  /** The vocabulary of the site's language, with every word that was read so far. */
  words(): Vocabulary {
    this.site();
    return this.vocabulary!;
  }

  /** The kind's items, loaded once and again only when some of them changed. */
  data(kind: Kind, watch: EngineWatch = {}): KindData {
    return this.proofs(kind, watch).data;
  }

  rules(kind: Kind): KindRules {
    return this.proofs(kind).rules;
  }

  private proofs(kind: Kind, watch: EngineWatch = {}): KindProofs {
    const site = this.site();
    let proofs = this.kinds.get(kind);
    const now = revision(this.db);
    if (!proofs || (proofs.data.revision !== now && !this.refresh(kind, proofs))) {
      const data = loadKind(this.db, kind, site, (share) =>
        watch.progress?.({ step: "loading", kind, text: null, side: null, share }),
      );
      proofs = { data, rules: new KindRules(data.items), live: new Map(), provers: new Map(), known: new Map() };
      this.kinds.set(kind, proofs);
      this.forgetViews();
    }
    proofs.data.revision = now;
    return proofs;
  }

  /** Takes in what changed of a kind's items since; says whether that was possible without loading it anew. */
  private refresh(kind: Kind, { data, rules, live, provers, known }: KindProofs): boolean {
    const touched = touchedSince(this.db, kind, data.revision, data.ids.length);
    const changed = touched && data.refresh(touched);
    if (!changed) return false;
    if (changed.rows.length === 0) return true;
    for (const own of live.values()) {
      own.prover.touch(changed.rows, changed.fields);
      own.stale = true;
    }
    for (const prover of provers.values()) prover.touch(changed.rows, changed.fields);
    known.clear();
    if (changed.fields.size > 0) rules.forget(changed.fields);
    this.forgetViews();
    return true;
  }

  private forgetViews(): void {
    this.order = null;
    this.liveParts.clear();
  }

  /** The figures of a design: of each text over the whole set, and of the part that `view` names. */
  prove(
    kind: Kind,
    design: KindDesign,
    watch: EngineWatch = {},
    view: { scope: ScopeName; text: TextName } = { scope: "all", text: "title" },
  ): ProvedKind {
    const { data, rules } = this.proofs(kind, watch);
    const texts = Object.fromEntries(
      TEXTS.map((text): [TextName, ProvedText] => {
        const live = this.liveProof(kind, text, watch);
        const { faults } = this.textProof(kind, text, design, watch);
        const part = view.scope === "all" ? null : this.part(kind, text, design, view.scope);
        return [text, { draft: this.summary(kind, text, design), live: live.summary, part, faults }];
      }),
    ) as Record<TextName, ProvedText>;
    return {
      kind,
      total: data.ids.length,
      texts,
      report: rules.report(design, watch.cancelled),
      pieces: this.pieces(kind, design, view),
    };
  }

  /** The figures of a text under a design, over the whole set. */
  summary(kind: Kind, text: TextName, design: KindDesign, slot: Slot = "draft"): TextSummary {
    const { proof } = this.textProof(kind, text, design, {}, slot);
    return (figuresOf(this.textProof(kind, text, design, {}, slot)).whole ??= summarise(
      proof,
      this.liveProof(kind, text).proof,
      this.lateFrom(text),
    ));
  }

  /** The figures of a part of the set. The live ones are remembered as long as the part's items are the same. */
  private part(kind: Kind, text: TextName, design: KindDesign, scope: ScopeName): NonNullable<ProvedText["part"]> {
    const known = this.textProof(kind, text, design);
    const figures = figuresOf(known);
    const live = this.liveProof(kind, text).proof;
    const late = this.lateFrom(text);
    const name = `${kind} ${text} ${scope}`;
    // A part has the same items as long as what decides each of its texts is the same: where a rule has no line for this
    // text, its pages are told by the others.
    const decides = TEXTS.map((one) => this.rules(kind).decision(design, one).decides);
    const isSame = (other: readonly Int16Array[] | undefined) =>
      other !== undefined && decides.every((own, i) => own === other[i]);
    const before = this.liveParts.get(name);
    const counted = figures.parts.get(scope);
    let draft = counted && isSame(counted.decides) ? counted.figures : null;
    let liveFigures = before && isSame(before.decides) ? before.figures : null;
    if (!draft || !liveFigures) {
      const include = this.rules(kind).scope(design, scope, text)!;
      if (!draft) {
        const { whole, part } = summariseParts(known.proof, live, late, include);
        figures.whole = whole;
        draft = part;
        figures.parts.set(scope, { decides, figures: part });
      }
      liveFigures ??= summariseParts(live, live, late, include).part;
    }
    if (this.liveParts.size > MOST_PARTS) this.liveParts.clear();
    this.liveParts.set(name, { decides, figures: liveFigures });
    return { draft, live: liveFigures };
  }

  private pieces(
    kind: Kind,
    design: KindDesign,
    { scope, text }: { scope: ScopeName; text: TextName },
  ): ProvedKind["pieces"] {
    const { decision, programs, proof } = this.textProof(kind, text, design);
    const place = decision.lines.findIndex((line) =>
      scope === "all" || scope === "base" ? line.from === "base" : line.rule?.id === scope,
    );
    const program = programs[place];
    return program && program.pieces.length > 0 ? pieceShares(proof, program, place) : null;
  }

  /** The proof of one text of a kind under a design. It holds until the slot is asked for another. */
  textProof(kind: Kind, text: TextName, design: KindDesign, watch: EngineWatch = {}, slot: Slot = "draft"): KnownProof {
    const proofs = this.proofs(kind, watch);
    const name = `${slot} ${text}`;
    const key = keyOf(design, text);
    const known = proofs.known.get(name);
    if (known?.key === key) return known;
    proofs.known.delete(name);
    this.order = null;
    const decision = proofs.rules.decision(design, text, watch.cancelled);
    const faults: FaultyLine[] = [];
    const programs = decision.lines.map(({ source, rule }) => {
      const { program, error } = this.program(proofs.data, source);
      if (error !== null) faults.push({ rule: rule?.id ?? null, message: error });
      return program;
    });
    let prover = proofs.provers.get(name);
    if (!prover) proofs.provers.set(name, (prover = new SetProver(this.source(proofs.data, text))));
    const proof = prover.prove(
      { lines: decision.lines.map(({ from }, i) => ({ from, program: programs[i]! })), decides: decision.decides },
      watchProof(kind, text, "draft", watch),
    );
    const made = { key, proof, decision, programs: prover.programs(), faults };
    proofs.known.set(name, made);
    return made;
  }

  liveProof(kind: Kind, text: TextName, watch: EngineWatch = {}): { proof: TextProof; summary: TextSummary } {
    const { data, live } = this.proofs(kind, watch);
    let known = live.get(text);
    if (known && !known.stale) return known;
    const prover = known?.prover ?? new SetProver({ ...this.source(data, text), hand: new Map() });
    const proof = prover.prove({ lines: [], decides: null }, watchProof(kind, text, "live", watch));
    known = { prover, proof, summary: summarise(proof, proof, this.lateFrom(text)), stale: false };
    live.set(text, known);
    return known;
  }

  /** What an extra text's lines make of a kind; for image descriptions of the pages that have an image without one. */
  extra(kind: Kind, design: KindDesign, extra: ExtraName, watch: EngineWatch = {}): ProvedExtra {
    const proofs = this.proofs(kind, watch);
    const { data } = proofs;
    const decision = proofs.rules.decision(design, extra, watch.cancelled);
    const faults: FaultyLine[] = [];
    const lines = decision.lines.map(({ from, source, rule }) => {
      const { program, error } = this.program(data, source);
      if (error !== null) faults.push({ rule: rule?.id ?? null, message: error });
      return { from, program };
    });
    let prover = proofs.provers.get(extra);
    if (!prover)
      proofs.provers.set(
        extra,
        (prover = new SetProver({
          ...this.source(data, "title"),
          text: extra,
          room: roomFor({ surfaces: [], chars: null }),
          live: data.live.title.map(() => ""),
          hand: new Map(),
        })),
      );
    const proof = prover.prove({ lines, decides: decision.decides }, { cancelled: watch.cancelled });
    const images = extra === "alt" ? this.bareImages(kind, data) : null;
    const found: ProvedExtra = { pages: 0, images: 0, filled: 0, same: 0, longest: 0, faults, examples: [] };
    const made = { ...found, examples: [] as { name: string; text: string }[] };
    for (let row = 0; row < proof.size; row++) {
      if (images !== null && images[row] === 0) continue;
      made.pages++;
      made.images += images?.[row] ?? 0;
      if (proof.lengths[row] === 0) continue;
      made.filled++;
      if (proof.groups.countOf(row) > 1) made.same++;
      made.longest = Math.max(made.longest, proof.lengths[row]!);
      if (made.examples.length < 2 && row % 97 >= 96 - made.examples.length)
        made.examples.push({ name: data.items.value("name", row), text: proof.textOf(row) });
    }
    return made;
  }

  /** The texts that an extra line makes, of a stretch of a kind's pages; `null` where nothing is to be said. */
  extraTexts(kind: Kind, design: KindDesign, extra: ExtraName, from: number, count: number): (string | null)[] {
    this.extra(kind, design, extra);
    const proofs = this.proofs(kind);
    const images = extra === "alt" ? this.bareImages(kind, proofs.data) : null;
    const { lines, decides } = proofs.rules.decision(design, extra);
    const proof = proofs.provers
      .get(extra)!
      .prove({
        lines: lines.map((line) => ({ from: line.from, program: this.program(proofs.data, line.source).program })),
        decides,
      });
    return Array.from({ length: Math.max(0, Math.min(count, proof.size - from)) }, (_, i) =>
      images?.[from + i] === 0 || proof.lengths[from + i] === 0 ? null : proof.textOf(from + i),
    );
  }

  /** How many images without a description each page has. */
  private bareImages(kind: Kind, data: KindData): Int32Array {
    let known = bareImages.get(data);
    if (!known) {
      known = new Int32Array(data.ids.length);
      for (const { id, body } of iterateBodies(this.db, kind))
        if (body.includes("<img")) known[data.rowOf(id)] = htmlParts(body).images.filter((alt) => alt === "").length;
      bareImages.set(data, known);
    }
    return known;
  }

  /** Each row's robots setting under a design: by hand, else the first matching rule's that has one, else the base's, else the site's. */
  robots(kind: Kind, design: KindDesign): RobotsOf {
    const { data, rules } = this.proofs(kind);
    const { lines, decides } = rules.decision(design, "robots");
    const { codes, table } = data.items.column("robots");
    const live = table.values.map(readRobots);
    return (row) => {
      const hand = data.hands.robots.get(row);
      if (hand !== undefined) return { value: readRobots(hand), from: "hand", rule: null };
      const line = lines[decides[row]!];
      return line
        ? { value: readRobots(line.source), from: line.from, rule: line.rule?.name ?? null }
        : { value: live[codes[row]!]!, from: "live", rule: null };
    };
  }

  rows(kind: Kind, design: KindDesign, query: RowQuery, watch: EngineWatch = {}): { total: number; rows: BenchRow[] } {
    this.textProof(kind, query.text, design, watch);
    const order = this.ordered(kind, design, query);
    const rows: BenchRow[] = [];
    const view = this.rowView(kind, query.text, design);
    for (let i = query.from; i < Math.min(order.length, query.from + query.count); i++)
      rows.push(benchRow(view, order[i]!));
    return { total: order.length, rows };
  }

  /** One item as the interface gets it, or `null` for one that is not of this kind. */
  item(kind: Kind, design: KindDesign, text: TextName, id: number, watch: EngineWatch = {}): BenchRow | null {
    const row = this.data(kind, watch).rowOf(id);
    return row < 0 ? null : benchRow(this.rowView(kind, text, design), row);
  }

  /** Two real results for each text, from a quarter and three quarters down the site. */
  examples(kind: Kind, design: KindDesign): Record<TextName, string[]> {
    const data = this.data(kind);
    return Object.fromEntries(
      TEXTS.map((text) => {
        const { proof } = this.textProof(kind, text, design);
        const found = [0.27, 0.77].flatMap((share) => {
          for (let row = Math.floor(proof.size * share), tries = 0; tries < 500 && row < proof.size; row++, tries++) {
            if (proof.lengths[row] !== 0)
              return [text === "slug" ? data.folder(row) + proof.textOf(row) : proof.textOf(row)];
          }
          return [];
        });
        return [text, found];
      }),
    ) as Record<TextName, string[]>;
  }

  private ordered(kind: Kind, design: KindDesign, query: RowQuery): Int32Array {
    const { proof, key: proofKey } = this.textProof(kind, query.text, design);
    const key = JSON.stringify([kind, query.text, proofKey, query.scope, query.sort, query.filter, query.search]);
    if (this.order?.key === key) return this.order.rows;
    const data = this.data(kind);
    const words = query.search.toLowerCase().split(/\s+/).filter(Boolean);
    const part = this.rules(kind).scope(design, query.scope, query.text);
    const found = (row: number) => {
      const text = `${data.items.value("name", row)} ${proof.textOf(row)} ${data.paths[row]}`.toLowerCase();
      return words.every((word) => text.includes(word));
    };
    const matches =
      part === null && words.length === 0
        ? null
        : (row: number) => (part === null || part[row] === 1) && (words.length === 0 || found(row));
    const rows = orderRows(
      proof,
      this.liveProof(kind, query.text).proof,
      this.lateFrom(query.text),
      query.sort,
      query.filter,
      matches,
    );
    this.order = { key, rows };
    return rows;
  }

  /** What rows of a kind are made from, under a design. */
  private rowView(kind: Kind, text: TextName, design: KindDesign): RowView {
    return {
      data: this.data(kind),
      text,
      known: Object.fromEntries(TEXTS.map((name) => [name, this.textProof(kind, name, design)])) as Record<
        TextName,
        KnownProof
      >,
      body: [design.base, ...design.rules].some((lines) => TEXTS.some((name) => /\bbody\b/i.test(lines[name] ?? ""))),
    };
  }

  /** Where a keyword has to begin at the latest in a text, in px (characters for slugs) from the left. */
  lateFrom(text: TextName): number {
    return this.roomWidth(text) * this.site().checks.lateShare;
  }

  /** The width that a text's histogram is told against: px, characters for slugs. */
  roomWidth(text: TextName): number {
    const site = this.site();
    if (text === "slug") return site.slug.max;
    const surface = limitsOf(site, text).surfaces[0];
    return surface ? (surface.total ?? surface.width) : 600;
  }

  /** Every board kind that has items. */
  boardKinds(): Kind[] {
    return BOARD_KINDS.filter((kind) => this.data(kind).ids.length > 0);
  }

  private program(data: KindData, source: string): { program: Program | null; error: string | null } {
    const line = parseLine(source, data.items.known);
    if (line.errors.length > 0) return { program: null, error: line.errors[0]!.message };
    const constants = siteConstants(this.site());
    return { program: compileLine(line, new Map([["sep", constants.get("sep")!]])), error: null };
  }

  private source(data: KindData, text: TextName): ProofSource {
    const site = this.site();
    return {
      text,
      items: data.items,
      room: roomFor(limitsOf(site, text)),
      slug: text === "slug" ? { options: site.slug, stopWords: languageByTag(site.language).stopWords } : null,
      live: data.live[text],
      hand: data.hands[text],
      folders: data.folders,
      keywords: data.items.column("keyword"),
      vocabulary: this.vocabulary!,
    };
  }
}

function watchProof(kind: Kind, text: TextName, side: Side, { cancelled, progress }: EngineWatch): Watch {
  return {
    cancelled,
    progress:
      progress &&
      ((done, total) => progress({ step: "proving", kind, text, side, share: total === 0 ? 1 : done / total })),
  };
}

const figures = new WeakMap<KnownProof, KnownFigures>();

function figuresOf(known: KnownProof): KnownFigures {
  let own = figures.get(known);
  if (!own) figures.set(known, (own = { whole: null, parts: new Map() }));
  return own;
}

const keys = new WeakMap<KindDesign, Map<TextName, string>>();

/** What a text's proof depends on of a design; worked out once a design. */
function keyOf(design: KindDesign, text: TextName): string {
  let own = keys.get(design);
  if (!own) keys.set(design, (own = new Map()));
  let key = own.get(text);
  if (key === undefined)
    own.set(
      text,
      (key = JSON.stringify([
        design.base[text],
        design.rules.flatMap((rule) =>
          rule.off || rule[text] === undefined ? [] : [[rule.id, rule.when, rule[text]]],
        ),
      ])),
    );
  return key;
}
