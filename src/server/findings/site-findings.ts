import { type CheckContext, type TextCase, textBits, textFindings, type FoundText } from "../../core/checks/check-text";
import { contentBits, indexingBits } from "../../core/checks/check-page";
import { findingBit, type FindingId, findingIds, type Side, type Subject } from "../../core/checks/findings";
import { switchedOn } from "../../core/checks/settings";
import { EMPTY_DESIGN, type KindDesign } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { FORMS, type Keyword, type Vocabulary } from "../../core/keywords/place";
import { type ValueTable } from "../../core/proof/values";
import { readRobots } from "../../core/design/robots";
import { htmlParts } from "../../core/text/plain";
import { TextGroups } from "../../core/proof/groups";
import { Cancelled } from "../../core/proof/prove-set";
import { differs, HAND, LIVE, type TextProof } from "../../core/proof/text-proof";
import { type Db } from "../../store/open";
import { iterateBodies, readBody } from "../../store/items";
import { type KindData } from "../workspace/kind-data";
import { type EngineWatch, type ProofEngine } from "../workspace/proof-engine";
import { type NearFinder, nearHere } from "./near-finder";
import { type Designs } from "../review/review";

/** A kind's findings, column by column: a row's are the bits of a number ({@link findingBit}), those switched off left out. */
export type KindFindings = Readonly<Record<Subject, Int32Array>>;

/** The proofs of a kind's texts on one side, and what its lines tell the slugs to be, where that is another thing. */
type Proofs = Readonly<Record<TextName, TextProof>> & { readonly told: TextProof | null };

interface SiteContext extends CheckContext {
  readonly rooms: Readonly<Record<TextName, number>>;
}

/** Flags that a text's findings depend on besides its wording. */
const [DUPLICATE, EMPTY_FIELD, SAME, FITS, SEEN, TOLD] = [1, 2, 4, 8, 16, 32];

/** What was found in the texts of one kind, kept as long as its items stay: only texts that changed are checked again. */
class CheckedText {
  /** Near duplicates aside. */
  readonly bits: Int32Array;
  private readonly seen1: Int32Array;
  private readonly seen2: Int32Array;
  private readonly other: Int32Array;
  private readonly keywords: Int32Array;
  private readonly flags: Uint8Array;

  constructor(size: number) {
    this.bits = new Int32Array(size);
    this.seen1 = new Int32Array(size);
    this.seen2 = new Int32Array(size);
    this.other = new Int32Array(size);
    this.keywords = new Int32Array(size);
    this.flags = new Uint8Array(size).fill(255);
  }

  /** Whether a row is as it was when it was checked last; notes how it is now. */
  isSame(row: number, hash1: number, hash2: number, other: number, keyword: number, flags: number): boolean {
    const same =
      this.seen1[row] === hash1 &&
      this.seen2[row] === hash2 &&
      this.other[row] === other &&
      this.keywords[row] === keyword &&
      this.flags[row] === flags;
    this.seen1[row] = hash1;
    this.seen2[row] = hash2;
    this.other[row] = other;
    this.keywords[row] = keyword;
    this.flags[row] = flags;
    return same;
  }
}

/** What was found in what pages say, with the keyword it was looked for and whether other pages have it, too. */
interface CheckedContent {
  readonly bits: Int32Array;
  readonly keywords: Int32Array;
  readonly shared: Uint8Array;
}

/** A search under way: for each row one that reads nearly the same, and the bits of its wording; `null` where that is not asked for. */
interface Search {
  readonly partners: () => Int32Array | null;
  readonly wording: () => Int32Array | null;
  /** Whether wording is looked at there, and not row by row. */
  readonly outsourced: boolean;
}

/** So many bodies are read one by one; more in one go. */
const MOST_BODIES = 500;

/** Finds what is wrong over a whole site, for what it has and for what the drafts make of it. */
export class SiteFindings {
  private readonly checked = new Map<string, CheckedText>();
  private readonly pages = new Map<string, CheckedContent>();
  private readonly nears = new Map<string, { readonly of: object; readonly partners: Int32Array }>();
  private readonly ready = new WeakMap<ValueTable, (Keyword | null)[]>();
  private counted: { readonly key: string; readonly counts: ReadonlyMap<string, number> } | null = null;
  private readonly owners = new Map<Kind, KindData>();

  constructor(
    private readonly db: Db,
    private readonly engine: ProofEngine,
    /** The present year. */
    private readonly year: () => number,
    private readonly nearFinder: NearFinder = nearHere,
  ) {}

  /** Every kind's findings on one side. */
  find(designs: Designs, side: Side, watch: EngineWatch = {}): ReadonlyMap<Kind, KindFindings> {
    const kinds = this.engine.boardKinds();
    const proofs = new Map(kinds.map((kind) => [kind, this.proofsOf(kind, designs, side, watch)]));
    for (const kind of kinds) this.forgetOld(kind);
    const same = Object.fromEntries(
      TEXTS.map((text) => [text, compareAll(kinds.map((kind) => proofs.get(kind)![text]))]),
    ) as Record<TextName, (kind: number, row: number) => boolean>;
    const context = this.context();
    const found = new Map<Kind, KindFindings>();
    // What reads nearly the same may be searched for in another thread while this one checks the texts one by one.
    const near = new Map(kinds.map((kind) => [kind, this.searchNear(kind, side, proofs.get(kind)!, context)]));
    kinds.forEach((kind, k) => {
      const data = this.engine.data(kind);
      const own = proofs.get(kind)!;
      this.contentBits(kind, data, context, watch);
      const searches = near.get(kind)!;
      const checked = Object.fromEntries(
        TEXTS.map((text) => [
          text,
          this.checkTexts(
            kind,
            side,
            text,
            own,
            (row) => same[text](k, row),
            data,
            context,
            watch,
            text === "slug" || !searches[text].outsourced,
          ),
        ]),
      ) as Record<TextName, CheckedText>;
      const searched = (text: "title" | "description") => {
        const bits = this.withSearch(text, checked[text], own[text], searches[text], switchedOn(context.checks, text));
        this.checked.set(checkedName(kind, side, text, context), checked[text]);
        return bits;
      };
      const texts = { slug: checked.slug.bits, title: searched("title"), description: searched("description") };
      found.set(kind, {
        ...texts,
        page: this.pageBits(kind, side, data, texts.title, designs[kind] ?? EMPTY_DESIGN, context),
      });
    });
    return found;
  }

  /** The findings of one item with where they stand, on one side. */
  explain(
    designs: Designs,
    kind: Kind,
    row: number,
    side: Side,
  ): { texts: Record<TextName, FoundText[]>; page: FindingId[] } {
    const bits = this.find(designs, side).get(kind)!;
    const data = this.engine.data(kind);
    const proofs = this.proofsOf(kind, designs, side, {});
    const context = this.context();
    const texts = Object.fromEntries(
      TEXTS.map((text) => {
        const on = bits[text][row]!;
        const own = this.caseOf(
          data,
          proofs,
          text,
          row,
          {
            duplicate: (on & findingBit(text, "duplicate")) !== 0,
            near: (on & findingBit(text, "near-duplicate")) !== 0,
            same: (on & findingBit(text, "same-as-other-text")) !== 0,
          },
          context,
        );
        return [text, textFindings(text, own, context).filter(({ id }) => (on & findingBit(text, id)) !== 0)];
      }),
    ) as Record<TextName, FoundText[]>;
    return { texts, page: findingIds("page", bits.page[row]!) };
  }

  private context(): SiteContext {
    const site = this.engine.site();
    const rooms = Object.fromEntries(TEXTS.map((text) => [text, this.engine.roomWidth(text)])) as Record<
      TextName,
      number
    >;
    return {
      checks: site.checks,
      vocabulary: this.engine.words(),
      siteName: site.name,
      reserved: new Set(site.reserved.map((word) => word.toLowerCase())),
      year: this.year(),
      rooms,
    };
  }

  private proofsOf(kind: Kind, designs: Designs, side: Side, watch: EngineWatch): Proofs {
    const design: KindDesign = designs[kind] ?? EMPTY_DESIGN;
    const texts = Object.fromEntries(
      TEXTS.map((text) => [
        text,
        side === "live"
          ? this.engine.liveProof(kind, text, watch).proof
          : this.engine.textProof(kind, text, design, watch).proof,
      ]),
    ) as Record<TextName, TextProof>;
    return { ...texts, told: side === "live" ? this.engine.textProof(kind, "slug", design, watch).proof : null };
  }

  /** Items that were loaded anew have nothing in common with what was checked. */
  private forgetOld(kind: Kind): void {
    const data = this.engine.data(kind);
    if (this.owners.get(kind) === data) return;
    this.owners.set(kind, data);
    for (const all of [this.checked, this.pages, this.nears])
      for (const name of [...all.keys()]) if (name.startsWith(`${kind} `)) all.delete(name);
  }

  private checkTexts(
    kind: Kind,
    side: Side,
    text: TextName,
    proofs: Proofs,
    duplicate: (row: number) => boolean,
    data: KindData,
    context: SiteContext,
    watch: EngineWatch,
    wording: boolean,
  ): CheckedText {
    const proof = proofs[text];
    const name = checkedName(kind, side, text, context);
    let checked = this.checked.get(name);
    if (!checked) {
      checked = new CheckedText(proof.size);
      // Without its wording it is not whole yet: it counts as checked when that is there, too.
      if (wording) this.checked.set(name, checked);
    }
    const on = switchedOn(context.checks, text);
    const keywords = data.items.column("keyword").codes;
    const told = text === "slug" ? proofs.told : null;
    const others = TEXTS.filter((other) => other !== text && other !== "slug" && text !== "slug").map(
      (other) => proofs[other],
    );
    for (let row = 0; row < proof.size; row++) {
      if (row % 1024 === 0) {
        if (watch.cancelled?.()) throw new Cancelled();
        watch.progress?.({ step: "checking", kind, text, side, share: row / proof.size });
      }
      const isSame = others.some(
        (other) =>
          proof.lengths[row] !== 0 &&
          other.compared1[row] === proof.compared1[row] &&
          other.compared2[row] === proof.compared2[row],
      );
      const isDuplicate = duplicate(row);
      const flags =
        (isDuplicate ? DUPLICATE! : 0) |
        (proof.emptyFields[row] === 1 ? EMPTY_FIELD! : 0) |
        (isSame ? SAME! : 0) |
        (proof.fits[row] === 1 ? FITS! : 0) |
        (proof.keywordSeen[row] === 1 ? SEEN! : 0) |
        (told && isToldByLine(told, row) ? TOLD! : 0);
      const other = text === "description" ? proofs.title.exact1[row]! : told ? told.exact1[row]! : 0;
      if (checked.isSame(row, proof.exact1[row]!, proof.exact2[row]!, other, keywords[row]!, flags)) continue;
      checked.bits[row] =
        textBits(
          text,
          this.caseOf(data, proofs, text, row, { duplicate: isDuplicate, near: false, same: isSame }, context),
          context,
          wording,
        ) & on;
    }
    return checked;
  }

  private caseOf(
    data: KindData,
    proofs: Proofs,
    text: TextName,
    row: number,
    of: { duplicate: boolean; near: boolean; same: boolean },
    context: SiteContext,
  ): TextCase {
    const proof = proofs[text];
    return {
      text: proof.textOf(row),
      fits: text === "slug" || proof.fits[row] === 1,
      room: context.rooms[text],
      keywordAt: proof.keywordAt[row]!,
      keywordSeen: proof.keywordSeen[row] === 1,
      duplicate: of.duplicate,
      nearDuplicate: of.near,
      emptyField: proof.emptyFields[row] === 1,
      title: text === "description" ? proofs.title.textOf(row) : "",
      sameAsOther: of.same,
      name: data.items.value("name", row),
      intro: text === "description" ? data.items.value("intro", row) : "",
      path: data.paths[row]!,
      form: proof.form[row]! === 0 ? null : FORMS[proof.form[row]! - 1]!,
      told: text === "slug" && proofs.told && isToldByLine(proofs.told, row) ? proofs.told.textOf(row) : null,
      keyword: this.keywordOf(data, row, context.vocabulary),
    };
  }

  /** A row's keyword made ready; each distinct one is looked up once, not once a text. */
  private keywordOf(data: KindData, row: number, vocabulary: Vocabulary): Keyword | null {
    const { codes, table } = data.items.column("keyword");
    const code = codes[row]!;
    if (code === 0) return null;
    let ready = this.ready.get(table);
    if (!ready) this.ready.set(table, (ready = []));
    return (ready[code] ??= vocabulary.keyword(table.values[code]!));
  }

  /** Begins to search for titles and descriptions that read nearly the same; where they are as they were, what was found is at hand. */
  private searchNear(
    kind: Kind,
    side: Side,
    proofs: Proofs,
    context: SiteContext,
  ): Record<"title" | "description", Search> {
    const begin = (text: "title" | "description"): Search => {
      const proof = proofs[text];
      // Where nothing was checked yet all texts go to the search anyway: their wording is looked at there, too.
      const wording = this.checked.has(checkedName(kind, side, text, context))
        ? null
        : { subject: text, year: context.year };
      const isOn = (switchedOn(context.checks, text) & findingBit(text, "near-duplicate")) !== 0;
      const name = `${kind} ${side} ${text}`;
      const stamp = stampOf(proof);
      const known = this.nears.get(name);
      if (!wording && (!isOn || known?.of === stamp))
        return { partners: () => (isOn ? known!.partners : null), wording: () => null, outsourced: false };
      const { placeOf, places } = onePlaceEach(proof);
      const search = this.nearFinder(
        places.map((row) => proof.textOf(row)),
        wording,
      );
      const spread = (found: Int32Array, none: number) => {
        const all = new Int32Array(proof.size).fill(none);
        for (let row = 0; row < all.length; row++) if (placeOf[row]! >= 0) all[row] = found[placeOf[row]!]!;
        return all;
      };
      return {
        partners: () => {
          const partners = spread(search.partners(), -1);
          this.nears.set(name, { of: stamp, partners });
          return isOn ? partners : null;
        },
        wording: () => {
          const bits = search.wording();
          return bits && spread(bits, 0);
        },
        outsourced: wording !== null,
      };
    };
    return { title: begin("title"), description: begin("description") };
  }

  /** The bits of a text with those that the search found; a duplicate is not a near one. */
  private withSearch(
    text: "title" | "description",
    checked: CheckedText,
    proof: TextProof,
    search: Search,
    on: number,
  ): Int32Array {
    const { bits } = checked;
    const wording = search.wording();
    if (wording) for (let row = 0; row < bits.length; row++) bits[row]! |= wording[row]! & on;
    const partners = search.partners();
    const all = bits.slice();
    const [own, duplicate] = [findingBit(text, "near-duplicate"), findingBit(text, "duplicate")];
    if (partners)
      for (let row = 0; row < all.length; row++)
        if (partners[row]! >= 0 && proof.lengths[row] !== 0 && (all[row]! & duplicate) === 0) all[row]! |= own;
    return all;
  }

  private pageBits(
    kind: Kind,
    side: Side,
    data: KindData,
    titles: Int32Array,
    design: KindDesign,
    context: CheckContext,
  ): Int32Array {
    const on = switchedOn(context.checks, "page");
    const content = this.contentBits(kind, data, context);
    const bits = new Int32Array(data.ids.length);
    const robots = data.items.column("robots");
    const live = robots.table.values.map((value) => readRobots(value).startsWith("noindex"));
    const drafted = side === "draft" ? this.engine.robots(kind, design) : null;
    for (let row = 0; row < bits.length; row++) {
      const noindex = drafted ? drafted(row).value.startsWith("noindex") : live[robots.codes[row]!]!;
      bits[row] =
        (content[row]! |
          indexingBits(
            { noindex, goodTitle: titles[row] === 0, name: data.items.value("name", row), path: data.paths[row]! },
            context,
          )) &
        on;
    }
    return bits;
  }

  /** The findings of what pages say; looked at again only where a keyword is another, or has become or ceased to be shared. */
  private contentBits(kind: Kind, data: KindData, context: CheckContext, watch: EngineWatch = {}): Int32Array {
    const name = `${kind} ${JSON.stringify(context.checks)}`;
    let known = this.pages.get(name);
    if (!known)
      this.pages.set(
        name,
        (known = {
          bits: new Int32Array(data.ids.length),
          keywords: new Int32Array(data.ids.length).fill(-1),
          shared: new Uint8Array(data.ids.length),
        }),
      );
    const counts = this.keywordCounts();
    const { codes, table } = data.items.column("keyword");
    const shared = table.values.map((value) => ((counts.get(value.toLowerCase()) ?? 0) > 1 ? 1 : 0));
    const stale: number[] = [];
    for (let row = 0; row < codes.length; row++)
      if (known.keywords[row] !== codes[row] || known.shared[row] !== shared[codes[row]!]) stale.push(row);
    const check = (row: number, body: string) => {
      const keyword = table.values[codes[row]!]!;
      known.bits[row] = contentBits(
        {
          keyword: keyword === "" ? null : context.vocabulary.keyword(keyword),
          keywordPages: shared[codes[row]!]! + 1,
          name: data.items.value("name", row),
          intro: data.items.value("intro", row),
          body: body === "" ? null : htmlParts(body),
        },
        context,
      );
      known.keywords[row] = codes[row]!;
      known.shared[row] = shared[codes[row]!]!;
    };
    // What a page without a keyword says is not looked at.
    const read = stale.filter((row) => codes[row] !== 0);
    for (const row of stale) if (codes[row] === 0) check(row, "");
    if (read.length <= MOST_BODIES) {
      for (const row of read) check(row, readBody(this.db, data.ids[row]!));
      return known.bits;
    }
    const waits = new Uint8Array(codes.length);
    for (const row of read) waits[row] = 1;
    let done = 0;
    const pause = () => {
      if (done++ % 256 !== 0) return;
      if (watch.cancelled?.()) throw new Cancelled();
      watch.progress?.({ step: "checking", kind, text: null, side: null, share: done / read.length });
    };
    // One by one as they come: all bodies of a site may be more than there is memory for.
    for (const { id, body } of iterateBodies(this.db, kind)) {
      const row = data.rowOf(id);
      if (row < 0 || waits[row] === 0) continue;
      pause();
      check(row, body);
      waits[row] = 0;
    }
    for (const row of read) {
      if (waits[row] === 0) continue;
      pause();
      check(row, "");
    }
    return known.bits;
  }

  /** How many pages of the site have each keyword, case aside. */
  private keywordCounts(): ReadonlyMap<string, number> {
    const key = this.engine
      .boardKinds()
      .map((kind) => this.engine.data(kind).revision)
      .join(" ");
    if (this.counted?.key === key) return this.counted.counts;
    const counts = new Map<string, number>();
    for (const kind of this.engine.boardKinds()) {
      const { codes, table } = this.engine.data(kind).items.column("keyword");
      const folded = table.values.map((value) => value.toLowerCase());
      for (let row = 0; row < codes.length; row++)
        if (codes[row] !== 0) counts.set(folded[codes[row]!]!, (counts.get(folded[codes[row]!]!) ?? 0) + 1);
    }
    this.counted = { key, counts };
    return counts;
  }
}

function isToldByLine(proof: TextProof, row: number): boolean {
  return proof.from[row] !== HAND && proof.from[row] !== LIVE && proof.lengths[row] !== 0;
}

/** What was checked of a text of a kind on one side, as long as the settings are the same. */
function checkedName(kind: Kind, side: Side, text: TextName, { checks, year }: SiteContext): string {
  return `${kind} ${side} ${text} ${JSON.stringify(checks)} ${year}`;
}

/** Of rows that read the same the first, and for each row its place among those; -1 where it has no text. */
function onePlaceEach(proof: TextProof): { placeOf: Int32Array; places: number[] } {
  const first = new Map<number, number>();
  const placeOf = new Int32Array(proof.size).fill(-1);
  const places: number[] = [];
  for (let row = 0; row < proof.size; row++) {
    const group = proof.groups.groupOf(row);
    if (group < 0) continue;
    // Groups are told case aside; wording is not: only what is written alike, too, has one place.
    const known = proof.groups.countOf(row) === 1 ? undefined : first.get(group);
    if (known !== undefined && !differs(proof, proof, row, places[known]!)) {
      placeOf[row] = known;
      continue;
    }
    placeOf[row] = places.length;
    if (proof.groups.countOf(row) > 1 && known === undefined) first.set(group, places.length);
    places.push(row);
  }
  return { placeOf, places };
}

const stamps = new WeakMap<TextProof, { hash: number; stamp: object }>();

/** An object that is the same as long as all texts of a proof are: its columns are written over by the next proof. */
function stampOf(proof: TextProof): object {
  let hash = proof.size;
  for (let row = 0; row < proof.size; row++)
    hash = (Math.imul(hash, 0x01000193) ^ proof.exact1[row]! ^ (proof.exact2[row]! >>> 3)) | 0;
  const known = stamps.get(proof);
  if (known?.hash === hash) return known.stamp;
  const stamp = {};
  stamps.set(proof, { hash, stamp });
  return stamp;
}

/** Whether a row of one of several sets reads the same as any other row of them all. */
function compareAll(proofs: readonly TextProof[]): (set: number, row: number) => boolean {
  const starts = proofs.map(() => 0);
  for (let set = 1; set < proofs.length; set++) starts[set] = starts[set - 1]! + proofs[set - 1]!.size;
  const groups = new TextGroups(proofs.reduce((sum, { size }) => sum + size, 0));
  proofs.forEach((proof, set) => {
    for (let row = 0; row < proof.size; row++)
      groups.put(starts[set]! + row, proof.compared1[row]!, proof.compared2[row]!);
  });
  return (set, row) => groups.countOf(starts[set]! + row) > 1;
}
