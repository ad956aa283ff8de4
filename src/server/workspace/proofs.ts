import { slugRulesOf } from "../../core/slugs/site-rules";
import { type KindDesign, limitsOf, movesOf, type Site, siteConstants } from "../../core/design/design";
import { canonicalPart } from "../../core/addresses/canonical";
import { type ExtraName, type Kind, type PageExtra, type TextName } from "../../core/design/kinds";
import { type Vocabulary } from "../../core/keywords/place";
import { parseLine } from "../../core/lines/parse";
import { compileLine, type Program } from "../../core/lines/program";
import { type ProofSource, SetProver, type Watch } from "../../core/proof/prove-set";
import { type ItemSet } from "../../core/proof/items";
import { roomFor } from "../../core/proof/room";
import { type TextProof } from "../../core/proof/text-proof";
import { type Side } from "../../core/checks/findings";
import { type Decision } from "../../core/rules/decide";
import { type KindData, type RefreshedKind } from "./kind-data";
import { type KindMoves, movesSettings } from "./kind-moves";
import { type KindRules } from "./kind-rules";
import { type LineGuard } from "./line-guard";
import { type LiveAhead } from "./live-ahead";
import { type PageImages } from "./page-images";
import { settingsUsed } from "./settings-used";
import { type LoadedKind } from "./site-kinds";
import { type WorkWatch } from "./watch";

/** A line that is not applied: whose it is, and what is wrong with it. */
export interface FaultyLine {
  /** The rule's id, or `null` for the base. */
  readonly rule: string | null;
  readonly message: string;
}

/** A text's proof under a design. It stays as it is; `stamp` tells what it rests on. */
export interface KnownProof {
  /** Another one where the lines, the items or the settings are that it rests on. */
  readonly stamp: string;
  readonly proof: TextProof;
  readonly decision: Decision;
  /** Of the lines that decide, `null` for one with an error. */
  readonly programs: readonly (Program | null)[];
  readonly faults: readonly FaultyLine[];
}

/**
 * Designs of one kind can be proved side by side, each quickly again after a change: what is drafted, what it is compared with, and
 * what is drafted under settings that are only tried.
 */
export type Slot = "draft" | "other" | "tried";

interface HeldProver {
  readonly prover: SetProver;
  readonly settings: string;
  readonly sourceOf: (data: KindData) => ProofSource;
  /** What was proved last. */
  known: KnownProof | null;
}

/** What is proved of which kind, and with which settings. */
interface Asked {
  readonly kind: Kind;
  readonly site: Site;
  readonly loaded: LoadedKind;
  readonly vocabulary: Vocabulary;
}

/** Proves texts over whole sets; what a change does not touch is not proved again. */
export class Proofs {
  private readonly provers = new Map<Kind, Map<string, HeldProver>>();

  constructor(
    private readonly guard: LineGuard,
    private readonly moves: KindMoves,
    private readonly ahead: LiveAhead | null,
  ) {}

  /** Takes in that a kind's items changed; without saying what changed, they were loaded anew. */
  itemsChanged(kind: Kind, { data }: LoadedKind, changed: RefreshedKind | null): void {
    if (!changed) {
      this.provers.delete(kind);
      return;
    }
    // Of images there is a row each, and which are whose is told anew.
    this.provers.get(kind)?.delete("alt");
    this.provers.get(kind)?.delete("live alt");
    for (const held of this.provers.get(kind)?.values() ?? []) {
      held.prover.touch(changed.rows, changed.fields, held.sourceOf(data));
      held.known = null;
    }
  }

  /** The proof of one text of a kind under a design. */
  ofDesign(asked: Asked, text: TextName, design: KindDesign, watch: WorkWatch, slot: Slot): KnownProof {
    const { kind, site, loaded, vocabulary } = asked;
    const held = this.held(asked, `${slot} ${text}`, settingsUsed.proof(site, text), (data) =>
      textSource(text, site, data, vocabulary),
    );
    const decision = this.movable(asked, design, text, loaded.rules.decision(design, text, watch));
    const lines = { design, decision, items: loaded.data.items };
    return this.proved(held, asked, text, lines, proofWatch(kind, text, "draft", watch));
  }

  /** What the site has now, proved. */
  live({ kind, site, loaded, vocabulary }: Asked, text: TextName, watch: WorkWatch): KnownProof {
    const asked = { kind, site, loaded, vocabulary };
    const held = this.held(asked, `live ${text}`, settingsUsed.proof(site, text), (data) => ({
      ...textSource(text, site, data, vocabulary),
      hand: new Map(),
    }));
    const stamp = `live ${held.settings} ${loaded.data.stamp}`;
    if (held.known?.stamp === stamp) return held.known;
    const watched = proofWatch(kind, text, "live", watch);
    this.ahead?.fill(kind, text, `${held.settings} ${loaded.data.stamp}`, held.prover, watched);
    const proof = held.prover.prove({ lines: [], decides: null }, watched);
    held.known = { stamp, proof, decision: { lines: [], decides: new Int16Array(0) }, programs: [], faults: [] };
    return held.known;
  }

  /** What the lines of an extra text make of every page. */
  pageExtra(asked: Asked, extra: PageExtra, design: KindDesign, watch: WorkWatch): KnownProof {
    const { loaded } = asked;
    const held = this.held(asked, extra, settingsUsed.pageExtra(asked.site, extra), (data) =>
      pageExtraSource(asked, extra, data),
    );
    const decision = loaded.rules.decision(design, extra, watch);
    return this.proved(
      held,
      asked,
      extra,
      { design, decision, items: loaded.data.items },
      proofWatch(asked.kind, extra, "draft", watch),
    );
  }

  /** What the lines of image descriptions make of every image that has none. */
  alts(asked: Asked, images: PageImages, design: KindDesign, watch: WorkWatch): KnownProof {
    const { loaded } = asked;
    const held = this.held(asked, "alt", "", () => altSource(asked, images));
    const { lines, decides } = loaded.rules.decision(design, "alt", watch);
    const ofImages = Int16Array.from(images.pages, (page, i) => (images.alts[i] === "" ? decides[page]! : -1));
    const decision = { lines, decides: ofImages };
    return this.proved(
      held,
      asked,
      "alt",
      { design, decision, items: images.items },
      proofWatch(asked.kind, "alt", "draft", watch),
    );
  }

  /** What the site has of an extra text, proved. */
  livePageExtra(asked: Asked, extra: PageExtra, watch: WorkWatch): KnownProof {
    return this.asItIs(asked, extra, (data) => pageExtraSource(asked, extra, data), watch);
  }

  /** What bodies say of their images, proved. */
  liveAlts(asked: Asked, images: PageImages, watch: WorkWatch): KnownProof {
    return this.asItIs(asked, "alt", () => altSource(asked, images), watch);
  }

  private asItIs(
    asked: Asked,
    extra: ExtraName,
    sourceOf: (data: KindData) => ProofSource,
    watch: WorkWatch,
  ): KnownProof {
    const held = this.held(asked, `live ${extra}`, "", (data) => ({ ...sourceOf(data), hand: new Map() }));
    const stamp = `live ${asked.loaded.data.stamp}`;
    if (held.known?.stamp === stamp) return held.known;
    const proof = held.prover.prove({ lines: [], decides: null }, proofWatch(asked.kind, extra, "live", watch));
    held.known = { stamp, proof, decision: { lines: [], decides: new Int16Array(0) }, programs: [], faults: [] };
    return held.known;
  }

  /** No line sets the slug of a page that is to stay where it is. */
  private movable({ loaded, site }: Asked, design: KindDesign, text: TextName, decision: Decision): Decision {
    if (text !== "slug" || movesOf(design) === "all") return decision;
    const mayMove = this.moves.mayMove(loaded.data, site, design);
    return { lines: decision.lines, decides: decision.decides.map((line, row) => (mayMove(row) ? line : -1)) };
  }

  private held({ kind, loaded }: Asked, name: string, settings: string, sourceOf: HeldProver["sourceOf"]): HeldProver {
    let provers = this.provers.get(kind);
    if (!provers) this.provers.set(kind, (provers = new Map()));
    let held = provers.get(name);
    if (held?.settings !== settings) {
      held = { prover: new SetProver(sourceOf(loaded.data)), settings, sourceOf, known: null };
      provers.set(name, held);
    }
    return held;
  }

  private proved(
    held: HeldProver,
    { kind, site, loaded }: Asked,
    text: TextName | ExtraName,
    { design, decision, items }: { design: KindDesign; decision: Decision; items: ItemSet },
    watch: Watch,
  ): KnownProof {
    const stamp = `${designKey(design, text, site)} ${held.settings} ${loaded.data.stamp}`;
    if (held.known?.stamp === stamp) return held.known;
    held.known = null;
    const faults = refusedConditions(loaded.rules, design, decision);
    this.guard.begin(
      decision.lines.map(({ rule, source }) => ({ kind, text, rule: rule?.name ?? null, what: "line", source })),
    );
    const programs = decision.lines.map(({ source, rule }, place) => {
      this.guard.at(place);
      const { program, error } = this.program(items, site, source);
      if (error !== null) faults.push({ rule: rule?.id ?? null, message: error });
      return program;
    });
    const lines = decision.lines.map(({ from }, i) => ({ from, program: programs[i]! }));
    const proof = held.prover.prove(
      { lines, decides: decision.decides },
      { cancelled: watch.cancelled, progress: watch.progress, setting: (line) => this.guard.at(line) },
    );
    this.guard.clear();
    held.known = { stamp, proof, decision, programs: held.prover.programs(), faults };
    return held.known;
  }

  private program(items: ItemSet, site: Site, source: string): { program: Program | null; error: string | null } {
    const refused = this.guard.refusal({ what: "line", source });
    if (refused !== null) return { program: null, error: refused };
    const line = parseLine(source, items.known);
    if (line.errors.length > 0) return { program: null, error: line.errors[0]!.message };
    return { program: compileLine(line, new Map([["sep", siteConstants(site).get("sep")!]])), error: null };
  }
}

/** The rules that take nothing because their condition is refused. */
function refusedConditions(kind: KindRules, { rules }: KindDesign, { lines }: Decision): FaultyLine[] {
  return lines.flatMap(({ rule }) => {
    const when = rules.find(({ id }) => id === rule?.id)?.when;
    const message = when && kind.refusal(when);
    return message ? [{ rule: rule!.id, message }] : [];
  });
}

function textSource(text: TextName, site: Site, data: KindData, vocabulary: Vocabulary): ProofSource {
  return {
    text,
    items: data.items,
    room: roomFor(limitsOf(site, text)),
    slug: text === "slug" ? slugRulesOf(site) : null,
    live: data.live[text],
    hand: data.hands[text],
    folders: data.folders,
    keywords: data.items.column("keyword"),
    vocabulary,
  };
}

/** Extra texts are shown nowhere that has so much room and no more. */
const WITHOUT_LIMIT = roomFor({ surfaces: [], chars: null });

/** The items as a line for a path reads them. */
function pathItems(site: Site, { items }: KindData): ItemSet {
  const slugRules = slugRulesOf(site);
  return items.writtenBy((value, field) => (value === "" ? "" : canonicalPart(value, field, slugRules)));
}

function pageExtraSource({ site, vocabulary }: Asked, extra: PageExtra, data: KindData): ProofSource {
  return {
    ...textSource("title", site, data, vocabulary),
    text: extra,
    items: extra === "canonical" ? pathItems(site, data) : data.items,
    room: WITHOUT_LIMIT,
    live: data.pageExtra(extra),
    hand: data.hands[extra],
  };
}

function altSource({ site, loaded, vocabulary }: Asked, images: PageImages): ProofSource {
  return {
    ...textSource("title", site, loaded.data, vocabulary),
    text: "alt",
    items: images.items,
    room: WITHOUT_LIMIT,
    live: images.alts,
    hand: images.hand,
    folders: images.folders,
    keywords: images.items.column("keyword"),
  };
}

function proofWatch(kind: Kind, text: TextName | ExtraName, side: Side, { cancelled, progress }: WorkWatch): Watch {
  const tell = (done: number, total: number) =>
    progress?.({ step: "proving", kind, text, side, share: total === 0 ? 1 : done / total });
  return { cancelled, progress: progress && tell };
}

/** What a text's proof depends on of a design. */
function designKey(design: KindDesign, text: TextName | ExtraName, site: Site): string {
  const rules = design.rules.flatMap((rule) =>
    rule.off || rule[text] === undefined ? [] : [[rule.id, rule.when, rule[text]]],
  );
  const moves = text === "slug" ? [movesOf(design), design.movesFor, movesSettings(site)] : [];
  return JSON.stringify([design.base[text], rules, ...moves]);
}
