import { type KindDesign, limitsOf, type Site } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { kindIds, requireKind, type ExtraName, type Kind, type TextName } from "../../core/design/kinds";
import { type Robots, readRobots } from "../../core/design/robots";
import { Vocabulary } from "../../core/keywords/place";
import { type From } from "../../core/proof/text-proof";
import { Refusal } from "../../core/refusal";
import { languageByTag } from "../../core/text/language";
import { type Db } from "../../store/open";
import { type Activity } from "./activity";
import { type KindData } from "./kind-data";
import { KindMoves } from "./kind-moves";
import { type KindRules } from "./kind-rules";
import { type Moment, readMoment } from "./moment";
import { LineGuard, type RefusedLines } from "./line-guard";
import { type LiveAhead } from "./live-ahead";
import { ImagesOfKinds, type PageImages } from "./page-images";
import { type KnownProof, Proofs, type Slot } from "./proofs";
import { haveSameItems } from "./settings-used";
import { SiteKinds } from "./site-kinds";
import { type SitePages, sitePages } from "./site-pages";
import { type WorkWatch } from "./watch";

/** A row's robots setting, where it is from, and the rule's name and id. */
export type RobotsOf = (row: number) => {
  readonly value: Robots;
  readonly from: From;
  readonly rule: string | null;
  readonly owner: string | null;
};

/** So often at most something is worked out because others write meanwhile. */
const MOST_TRIES = 8;

/**
 * One opened site: its items in memory and what is proved of them. Everything that one call asks for is of one moment: while
 * {@link at} runs, the database is read as it stood when it began.
 */
export class Workspace {
  private readonly kinds: SiteKinds;
  private readonly proofs: Proofs;
  private readonly imagesOfKinds: ImagesOfKinds;
  private readonly moves = new KindMoves();
  private pinned: Moment | null = null;
  private heldPages: { readonly kinds: readonly KindData[]; readonly pages: SitePages } | null = null;
  private vocabulary: { readonly language: string; readonly words: Vocabulary } | null = null;

  constructor(
    readonly db: Db,
    options: {
      readonly activity?: Activity;
      readonly refused?: RefusedLines;
      readonly patience?: number;
      readonly ahead?: LiveAhead;
    } = {},
  ) {
    const ahead = options.ahead ?? null;
    const guard = new LineGuard(options.activity, options.refused, options.patience);
    this.proofs = new Proofs(guard, this.moves, ahead);
    this.imagesOfKinds = new ImagesOfKinds(db);
    this.kinds = new SiteKinds(db, guard, (...told) => this.proofs.itemsChanged(...told), ahead);
  }

  /** Does work at one moment of the site: what others write meanwhile is not seen. Nothing can be written in it. */
  at<T>(work: () => T): T {
    if (this.pinned) return work();
    this.db.exec("BEGIN");
    try {
      this.pinned = readMoment(this.db);
      return work();
    } finally {
      this.pinned = null;
      this.db.exec("COMMIT");
    }
  }

  /**
   * Does work as if the settings were other ones. Pages stay as they are in memory.
   *
   * @param site settings under which the items are the same ({@link haveSameItems}).
   * @throws {Error} where they are not.
   */
  tried<T>(site: Site, work: () => T): T {
    return this.at(() => {
      const moment = this.pinned!;
      if (!haveSameItems(moment.site, site))
        throw new Error("These settings change how pages are read; they cannot be tried");
      this.pinned = { ...moment, site, stamp: `${moment.stamp} tried` };
      try {
        return work();
      } finally {
        this.pinned = moment;
      }
    });
  }

  /**
   * Writes what was worked out at a moment, in one transaction, if the site is still as it was then.
   *
   * @throws {Refusal} `stale` where settings, drafts or items changed meanwhile; nothing is written then.
   */
  commit<T>(stamp: string, write: () => T): T {
    return this.db
      .transaction(() => {
        if (readMoment(this.db).stamp !== stamp) throw staleMoment();
        return write();
      })
      .immediate();
  }

  /**
   * Works something out and writes it, both of one moment of the site: it is worked out again where another wrote in between.
   *
   * @param work is done without anything written; `write` gets what it gave.
   * @throws {Refusal} `stale` where others wrote in between every time.
   */
  settle<P, T>(work: () => P, write: (plan: P) => T): { readonly plan: P; readonly written: T } {
    for (let tries = MOST_TRIES; ; tries--) {
      const { plan, stamp } = this.at(() => ({ plan: work(), stamp: this.moment.stamp }));
      try {
        return { plan, written: this.commit(stamp, () => write(plan)) };
      } catch (error) {
        if (tries === 1 || !(error instanceof Refusal) || error.code !== "stale") throw error;
      }
    }
  }

  /** The site as it stands; within {@link at} as it stood when that began. */
  get moment(): Moment {
    return this.pinned ?? readMoment(this.db);
  }

  site(): Site {
    return this.moment.site;
  }

  /** The drafts as they are stored. */
  drafts(): Designs {
    return this.moment.drafts;
  }

  /** The vocabulary of the site's language, with every word that was read so far. */
  words(): Vocabulary {
    const { language } = this.site();
    if (this.vocabulary?.language !== language)
      this.vocabulary = { language, words: new Vocabulary(languageByTag(language)) };
    return this.vocabulary.words;
  }

  /** A kind's items, loaded once; later only what changed of them is taken in. */
  data(kind: Kind, watch: WorkWatch = {}): KindData {
    requireKind(this.site(), kind);
    return this.kinds.at(this.moment, kind, watch).data;
  }

  rules(kind: Kind): KindRules {
    return this.kinds.at(this.moment, kind).rules;
  }

  /** Every board kind that has items. */
  kindsWithPages(watch: WorkWatch = {}): Kind[] {
    return kindIds(this.site()).filter((kind) => this.data(kind, watch).ids.length > 0);
  }

  /** Every page of the site by a number; the same object as long as no page is another one. */
  pages(watch: WorkWatch = {}): SitePages {
    const kinds = this.kindsWithPages(watch).map((kind) => this.data(kind));
    const held = this.heldPages;
    if (held?.kinds.length === kinds.length && kinds.every((data, i) => data === held.kinds[i])) return held.pages;
    const pages = sitePages(kinds);
    this.heldPages = { kinds, pages };
    return pages;
  }

  /** The proof of one text of a kind under a design. */
  textProof(kind: Kind, text: TextName, design: KindDesign, watch: WorkWatch = {}, slot: Slot = "draft"): KnownProof {
    return this.proofs.ofDesign(this.asked(kind, watch), text, design, watch, slot);
  }

  /** What the site has of one text of a kind, proved. */
  liveProof(kind: Kind, text: TextName, watch: WorkWatch = {}): KnownProof {
    return this.proofs.live(this.asked(kind, watch), text, watch);
  }

  /** The images of a kind's pages. */
  images(kind: Kind, watch: WorkWatch = {}): PageImages {
    return this.imagesOfKinds.of(this.data(kind, watch));
  }

  /** What a design's lines for an extra text make of a kind: of its pages, for image descriptions of their images. */
  extraProof(kind: Kind, extra: ExtraName, design: KindDesign, watch: WorkWatch = {}): KnownProof {
    const asked = this.asked(kind, watch);
    return extra === "alt"
      ? this.proofs.alts(asked, this.images(kind, watch), design, watch)
      : this.proofs.pageExtra(asked, extra, design, watch);
  }

  /** What the site has of an extra text, proved. */
  liveExtraProof(kind: Kind, extra: ExtraName, watch: WorkWatch = {}): KnownProof {
    const asked = this.asked(kind, watch);
    return extra === "alt"
      ? this.proofs.liveAlts(asked, this.images(kind, watch), watch)
      : this.proofs.livePageExtra(asked, extra, watch);
  }

  /** Each row's robots setting under a design: by hand, else the first matching rule's that has one, else the base's, else the site's. */
  robots(kind: Kind, design: KindDesign, watch: WorkWatch = {}): RobotsOf {
    const { data, rules } = this.kinds.at(this.moment, kind);
    const { lines, decides } = rules.decision(design, "robots", watch);
    const { codes, table } = data.items.column("robots");
    const live = table.values.map(readRobots);
    return (row) => {
      const hand = data.hands.robots.get(row);
      if (hand !== undefined) return { value: readRobots(hand), from: "hand", rule: null, owner: null };
      const line = lines[decides[row]!];
      return line
        ? {
            value: readRobots(line.source),
            from: line.from,
            rule: line.rule?.name ?? null,
            owner: line.rule?.id ?? null,
          }
        : { value: live[codes[row]!]!, from: "live", rule: null, owner: null };
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

  /** Whether pages of a kind may get another address under a design. */
  mayMove(kind: Kind, design: KindDesign): (row: number) => boolean {
    return this.moves.mayMove(this.data(kind), this.site(), design);
  }

  private asked(kind: Kind, watch: WorkWatch) {
    const loaded = this.kinds.at(this.moment, kind, watch);
    return { kind, site: this.site(), loaded, vocabulary: this.words() };
  }
}

function staleMoment(): Refusal {
  return new Refusal("stale", "The pages, the drafts or the settings changed meanwhile. Nothing was done; look again.");
}
