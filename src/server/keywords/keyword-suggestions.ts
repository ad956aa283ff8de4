import { type Kind } from "../../core/design/kinds";
import { type Keyword } from "../../core/keywords/place";
import { type Evidence, fitOf, keywordKey, stemsOf, suggestFromName } from "../../core/keywords/suggest";
import { Cancelled } from "../../core/proof/prove-set";
import { listedKeywords } from "../../store/listed-keywords";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { type KeywordPages, type PageAt, type PageRef } from "./keyword-pages";

/** A keyword for a page that has none. */
export interface Suggestion extends PageRef {
  readonly keyword: string;
  readonly from: "list" | "name";
  readonly volume: number | null;
  readonly evidence: readonly Evidence[];
}

/** While they are looked for: those found so far, by a page's place among the free ones, and the keys that are taken. */
interface Looking {
  /** Pages without a keyword. */
  readonly free: readonly PageAt[];
  readonly found: Map<number, Suggestion>;
  readonly taken: Set<string>;
  /** Says how far it is, from 0 to 1. @throws {Cancelled} */
  readonly tell: (share: number) => void;
}

/** So many pages are compared for a keyword of the list. */
const MOST_LOOKED_AT = 200;
/** Pages, or keywords, from one word on how far it is to the next. */
const STEP = 256;

/** A keyword for every page that has none, as far as one can be found: from the list first, then from the pages' own names. */
export class KeywordSuggestions {
  private held: { readonly key: string; readonly all: readonly Suggestion[] } | null = null;

  constructor(
    private readonly workspace: Workspace,
    private readonly pages: KeywordPages,
  ) {}

  /** A stretch of those for a kind. */
  list(
    query: { kind: Kind | "all"; from: number; count: number },
    watch: WorkWatch,
  ): { total: number; listed: number; without: number; suggestions: Suggestion[] } {
    const isAsked = ({ kind }: { readonly kind: Kind }) => query.kind === "all" || kind === query.kind;
    const all = this.now(watch).filter(isAsked);
    return {
      total: all.length,
      listed: all.filter(({ from }) => from === "list").length,
      without: this.pages.all().filter((page) => isAsked(page) && !this.pages.hasKeyword(page)).length,
      suggestions: all.slice(query.from, query.from + query.count),
    };
  }

  private now(watch: WorkWatch): readonly Suggestion[] {
    const key = this.pages.stamp();
    if (this.held?.key !== key) this.held = { key, all: this.look(watch) };
    return this.held.all;
  }

  private look(watch: WorkWatch): Suggestion[] {
    // Categories first: what many search for is more often about a sort than about one product.
    const free = this.pages
      .all()
      .filter((page) => !this.pages.hasKeyword(page))
      .sort((a, b) => Number(b.kind === "category") - Number(a.kind === "category"));
    const tell = (share: number) => {
      if (watch.cancelled?.()) throw new Cancelled();
      watch.progress?.({ step: "weighing", kind: free[0]?.kind ?? "product", text: null, side: null, share });
    };
    const looking: Looking = { free, found: new Map(), taken: this.pages.taken(), tell };
    this.takeFromList(looking);
    this.takeFromNames(looking);
    return [...looking.found]
      .sort(([a, one], [b, other]) =>
        one.from === other.from ? (other.volume ?? 0) - (one.volume ?? 0) || a - b : one.from === "list" ? -1 : 1,
      )
      .map(([, own]) => own);
  }

  private takeFromList(looking: Looking): void {
    const { free, found, taken, tell } = looking;
    const words = this.workspace.words();
    const list = listedKeywords(this.workspace.db).filter(({ keyword }) => !taken.has(keywordKey(words, keyword)));
    if (list.length === 0) return;
    const candidates = this.placesByStem(free);
    list.forEach(({ keyword, volume }, i) => {
      if (i % STEP === 0) tell(i / list.length / 2);
      const known = words.keyword(keyword);
      const best = known && this.bestPage(known, candidates, looking);
      if (!best) return;
      taken.add(keywordKey(words, keyword));
      const page = this.pages.refOf(free[best.place]!);
      found.set(best.place, { ...page, keyword, from: "list", volume, evidence: best.evidence });
    });
  }

  private takeFromNames({ free, found, taken, tell }: Looking): void {
    const words = this.workspace.words();
    const weights = this.pages.weights();
    free.forEach((page, place) => {
      if (place % STEP === 0) tell((1 + place / free.length) / 2);
      if (found.has(place)) return;
      const made = suggestFromName(words, weights, this.pages.about(page), (key) => taken.has(key));
      if (!made) return;
      const { keyword, evidence } = made;
      taken.add(keywordKey(words, keyword));
      found.set(place, { ...this.pages.refOf(page), keyword, from: "name", volume: null, evidence });
    });
  }

  /** Places of pages by the words of their names, categories and attributes: candidates for keywords of the list. */
  private placesByStem(free: readonly PageAt[]): ReadonlyMap<number, readonly number[]> {
    const words = this.workspace.words();
    const places = new Map<number, number[]>();
    free.forEach((page, place) => {
      const { name, category, attributes } = this.pages.aboutWithoutBody(page);
      for (const stem of new Set([name, category, ...attributes].flatMap((text) => stemsOf(words, text)))) {
        const own = places.get(stem);
        if (own) own.push(place);
        else places.set(stem, [place]);
      }
    });
    return places;
  }

  /** Of the pages that have all of a keyword's telling words the one that it fits best. */
  private bestPage(
    keyword: Keyword,
    candidates: ReadonlyMap<number, readonly number[]>,
    { free, found }: Looking,
  ): { place: number; evidence: readonly Evidence[] } | null {
    const words = this.workspace.words();
    const weights = this.pages.weights();
    const rarest = keyword.telling.map((stem) => candidates.get(stem) ?? []).sort((a, b) => a.length - b.length)[0]!;
    let best: { place: number; evidence: readonly Evidence[]; weight: number } | null = null;
    let looked = 0;
    for (const place of rarest) {
      if (found.has(place) || looked++ > MOST_LOOKED_AT) continue;
      const fit = fitOf(words, weights, keyword, this.pages.aboutWithoutBody(free[place]!));
      if (fit && (!best || fit.weight > best.weight)) best = { place, evidence: fit.evidence, weight: fit.weight };
    }
    return best;
  }
}
