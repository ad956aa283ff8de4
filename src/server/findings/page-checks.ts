import { contentBits, IMAGE_BITS, imageBits, indexingBits } from "../../core/checks/check-page";
import { switchedOn } from "../../core/checks/settings";
import { type KindDesign } from "../../core/design/design";
import { readRobots } from "../../core/design/robots";
import { Cancelled } from "../../core/proof/prove-set";
import { htmlParts } from "../../core/text/plain";
import { iterateBodies, readBody } from "../../store/items";
import { type KindData } from "../workspace/kind-data";
import { Remembered } from "../workspace/remembered";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { type KindSide, type SiteContext } from "./site-context";

/** What was found in what pages say, with the keyword it was looked for and whether other pages have it, too. */
interface CheckedContent {
  readonly loading: object;
  readonly bits: Int32Array;
  readonly keywords: Int32Array;
  readonly shared: Uint8Array;
}

/** So many bodies are read one by one; more in one go. */
const MOST_BODIES = 500;
const STEP = 256;

/** Finds what is wrong with pages as a whole: what they say, and whether they may be indexed. */
export class PageChecks {
  private readonly checked = new Map<string, CheckedContent>();
  private readonly counts = new Remembered<ReadonlyMap<string, number>>(2);

  constructor(private readonly workspace: Workspace) {}

  /** The findings of each page on one side, from those of its title, of its canonical, and of what it says. */
  find(
    { kind, side, data }: KindSide,
    { titles, canonicals }: { readonly titles: Int32Array; readonly canonicals: Int32Array | undefined },
    design: KindDesign,
    context: SiteContext,
  ): Int32Array {
    const on = switchedOn(context.checks, "page");
    const content = this.content(data, context, {});
    const robots = data.items.column("robots");
    const live = robots.table.values.map((value) => readRobots(value).startsWith("noindex"));
    const drafted = side === "draft" ? this.workspace.robots(kind, design) : null;
    if (this.workspace.site().extras.alt) this.putImages({ kind, side, data }, design, context, content);
    return Int32Array.from(content, (bits, row) => {
      const noindex = drafted ? drafted(row).value.startsWith("noindex") : live[robots.codes[row]!]!;
      const page = {
        noindex,
        goodTitle: titles[row] === 0,
        name: data.items.value("name", row),
        path: data.paths[row]!,
      };
      return (bits | indexingBits(page, context) | (canonicals?.[row] ?? 0)) & on;
    });
  }

  /** Puts what is found of pages' images: with what the drafts say of them, where it is the drafts' side. */
  private putImages(
    { kind, side, data }: Pick<KindSide, "kind" | "side" | "data">,
    design: KindDesign,
    context: SiteContext,
    bits: Int32Array,
  ): void {
    const { workspace } = this;
    const { pages } = workspace.images(kind);
    const { proof: live } = workspace.liveExtraProof(kind, "alt");
    const proof = side === "live" ? live : workspace.extraProof(kind, "alt", design).proof;
    const keywords = data.items.column("keyword");
    for (let from = 0, to = 0; from < pages.length; from = to) {
      const page = pages[from]!;
      const alts: string[] = [];
      for (to = from; pages[to] === page; to++) alts.push(proof.lengths[to] === 0 ? live.textOf(to) : proof.textOf(to));
      const keyword = keywords.table.values[keywords.codes[page]!]!;
      const own = imageBits(keyword === "" ? null : context.vocabulary.keyword(keyword), alts, context);
      bits[page] = (bits[page]! & ~IMAGE_BITS) | own;
    }
  }

  /** The findings of what pages say; looked at again only where a keyword is another, or has become or ceased to be shared. */
  content(data: KindData, context: SiteContext, watch: WorkWatch): Int32Array {
    const known = this.contentOf(data, context);
    const { codes, table } = data.items.column("keyword");
    const counts = this.keywordCounts();
    const shared = table.values.map((value) => ((counts.get(value.toLowerCase()) ?? 0) > 1 ? 1 : 0));
    const stale: number[] = [];
    for (let row = 0; row < codes.length; row++)
      if (known.keywords[row] !== codes[row] || known.shared[row] !== shared[codes[row]!]) stale.push(row);
    const check = (row: number, body: string) => {
      const code = codes[row]!;
      const keyword = table.values[code]!;
      const page = {
        keyword: keyword === "" ? null : context.vocabulary.keyword(keyword),
        keywordPages: shared[code]! + 1,
        name: data.items.value("name", row),
        intro: data.items.value("intro", row),
        body: body === "" ? null : htmlParts(body),
      };
      known.bits[row] = contentBits(page, context);
      known.keywords[row] = code;
      known.shared[row] = shared[code]!;
    };
    // What a page without a keyword says is not looked at.
    for (const row of stale) if (codes[row] === 0) check(row, "");
    this.readBodies(
      data,
      stale.filter((row) => codes[row] !== 0),
      check,
      watch,
    );
    return known.bits.slice();
  }

  private contentOf(data: KindData, { stamp }: SiteContext): CheckedContent {
    const name = `${data.kind} ${stamp}`;
    const known = this.checked.get(name);
    if (known?.loading === data.loading) return known;
    for (const old of [...this.checked.keys()]) if (old.startsWith(`${data.kind} `)) this.checked.delete(old);
    const size = data.ids.length;
    const blank = {
      loading: data.loading,
      bits: new Int32Array(size),
      keywords: new Int32Array(size).fill(-1),
      shared: new Uint8Array(size),
    };
    this.checked.set(name, blank);
    return blank;
  }

  /** Gives each of the rows its body, one by one as they come: all bodies of a site may be more than there is memory for. */
  private readBodies(
    data: KindData,
    rows: readonly number[],
    take: (row: number, body: string) => void,
    watch: WorkWatch,
  ): void {
    const { db } = this.workspace;
    if (rows.length <= MOST_BODIES) {
      for (const row of rows) take(row, readBody(db, data.ids[row]!));
      return;
    }
    const waits = new Uint8Array(data.ids.length);
    for (const row of rows) waits[row] = 1;
    let done = 0;
    const taken = (row: number, body: string) => {
      if (done++ % STEP === 0) {
        if (watch.cancelled?.()) throw new Cancelled();
        watch.progress?.({ step: "checking", kind: data.kind, text: null, side: null, share: done / rows.length });
      }
      take(row, body);
      waits[row] = 0;
    };
    for (const { id, body } of iterateBodies(db, data.kind)) {
      const row = data.rowOf(id);
      if (row >= 0 && waits[row] === 1) taken(row, body);
    }
    for (const row of rows) if (waits[row] === 1) taken(row, "");
  }

  /** How many pages of the site have each keyword, case aside. */
  private keywordCounts(): ReadonlyMap<string, number> {
    const all = this.workspace.kindsWithPages().map((kind) => this.workspace.data(kind));
    return this.counts.get(all.map(({ kind, stamp }) => `${kind} ${stamp}`).join(" "), () => {
      const counts = new Map<string, number>();
      for (const { items } of all) {
        const { codes, table } = items.column("keyword");
        const folded = table.values.map((value) => value.toLowerCase());
        for (let row = 0; row < codes.length; row++) {
          const own = folded[codes[row]!]!;
          if (codes[row] !== 0) counts.set(own, (counts.get(own) ?? 0) + 1);
        }
      }
      return counts;
    });
  }
}
