import { Refusal } from "../../core/refusal";
import { ObjectNumbers } from "../workspace/remembered";
import { settingsUsed } from "../workspace/settings-used";
import { type KindView } from "../items/site-views";
import { type WorkWatch } from "../workspace/watch";
import { type Designs } from "../../core/design/designs";
import { findingBit, type Side } from "../../core/checks/findings";
import { type Kind, type TextName } from "../../core/design/kinds";
import { FORMS, type Keyword, placeKeyword } from "../../core/keywords/place";
import { COVERAGE, type Coverage, type Place, PLACE_FINDINGS, PLACES } from "../../core/keywords/places";
import {
  type Evidence,
  fitOf,
  keywordKey,
  stemsOf,
  type SuggestPage,
  suggestFromName,
  TermWeights,
} from "../../core/keywords/suggest";
import { BUILT_IN_NAMES } from "../../core/lines/fields";
import { Cancelled } from "../../core/proof/prove-set";
import { type EditChange } from "../../store/edits";
import { idsWithBody, readBody } from "../../store/items";
import { foldKeyword, keywordListVersion, listedKeywords } from "../../store/listed-keywords";
import { type ItemsList } from "../items/items-list";
import { type Workspace } from "../workspace/workspace";

/** One kind's pages in the matrix: how many have a keyword, and of those how many have it in each place, on one side. */
export interface MatrixRow {
  readonly kind: Kind;
  readonly pages: number;
  readonly withKeyword: number;
  readonly missing: Readonly<Record<Side, Readonly<Record<Place, number>>>>;
  /** And how many have nothing there that it could stand in: no introduction, no body, no text. */
  readonly blank: Readonly<Record<Side, Readonly<Record<Place, number>>>>;
}

/** A page in a word or two. */
export interface PageRef {
  readonly kind: Kind;
  readonly id: number;
  readonly name: string;
  readonly path: string;
}

/** A keyword of the list or of a page, with the pages that have it. */
export interface CoveredKeyword {
  readonly keyword: string;
  readonly listed: boolean;
  readonly volume: number | null;
  readonly columns: Readonly<Record<string, string>>;
  readonly pages: number;
  readonly first: readonly PageRef[];
}

export interface Suggestion extends PageRef {
  readonly keyword: string;
  readonly from: "list" | "name";
  readonly volume: number | null;
  readonly evidence: readonly Evidence[];
}

/** A page that competes for a keyword, with the places it has it in under the drafts, and what it could have instead. */
export interface Competitor extends PageRef {
  readonly places: readonly Place[];
  readonly title: string;
  readonly instead: string;
}

export interface Competition {
  readonly keyword: string;
  readonly volume: number | null;
  readonly pages: number;
  readonly competitors: readonly Competitor[];
}

/** A keyword for a page; `""` clears it. */
export interface Assignment {
  readonly kind: Kind;
  readonly id: number;
  readonly keyword: string;
}

interface Suggested {
  readonly key: string;
  readonly all: readonly Suggestion[];
}

interface Covered {
  readonly key: string;
  readonly all: readonly (Omit<CoveredKeyword, "first"> & { readonly at: readonly number[] })[];
  readonly columns: readonly string[];
}

/** So many competitors of a keyword are shown with all that is known of them. */
const MOST_COMPETITORS = 12;
const FIRST_PAGES = 3;
const STEP = 256;

/** Keywords over the whole site: who has which, who should have which, where they stand. */
export class KeywordDesk {
  private suggested: Suggested | null = null;
  private covered: Covered | null = null;
  private readonly loadingNumbers = new ObjectNumbers();
  private weighed: { readonly key: string; readonly weights: TermWeights } | null = null;

  constructor(
    private readonly workspace: Workspace,
    private readonly list: ItemsList,
  ) {}

  matrix(designs: Designs, watch: WorkWatch = {}): MatrixRow[] {
    return this.list.views(designs, watch).kinds.map((view) => {
      const { codes } = this.workspace.data(view.kind).items.column("keyword");
      let withKeyword = 0;
      for (let row = 0; row < codes.length; row++) if (codes[row] !== 0) withKeyword++;
      const missing = (side: Side) => {
        const counts = Object.fromEntries(PLACES.map((place) => [place, 0])) as Record<Place, number>;
        for (const place of PLACES) {
          const { subject, id } = PLACE_FINDINGS[place];
          const bit = findingBit(subject, id);
          const bits = view.found[side][subject];
          for (let row = 0; row < bits.length; row++) if ((bits[row]! & bit) !== 0) counts[place]++;
        }
        return counts;
      };
      return {
        kind: view.kind,
        pages: codes.length,
        withKeyword,
        missing: { live: missing("live"), draft: missing("draft") },
        blank: { live: this.blank(view, "live"), draft: this.blank(view, "draft") },
      };
    });
  }

  /** Of the pages with a keyword how many have nothing in each place. */
  private blank(view: KindView, side: Side): Record<Place, number> {
    const { items, ids } = view.data;
    const { codes } = items.column("keyword");
    const intro = items.column("intro").codes;
    const bodies = idsWithBody(this.workspace.db, view.kind);
    const { title, description, slug } = view[side];
    const isBlank: Record<Place, (row: number) => boolean> = {
      title: (row) => title.lengths[row] === 0,
      "first third": (row) => title.lengths[row] === 0,
      visible: (row) => title.lengths[row] === 0,
      description: (row) => description.lengths[row] === 0,
      slug: (row) => slug.lengths[row] === 0,
      H1: () => false,
      "first paragraph": (row) => intro[row] === 0,
      body: (row) => !bodies.has(ids[row]!),
    };
    const counts = Object.fromEntries(PLACES.map((place) => [place, 0])) as Record<Place, number>;
    for (let row = 0; row < codes.length; row++) {
      if (codes[row] === 0) continue;
      for (const place of PLACES) if (isBlank[place](row)) counts[place]++;
    }
    return counts;
  }

  /** Keywords with the pages that have them; those of the list first, the most searched for at the top. */
  coverage(query: { show: Coverage; search: string; from: number; count: number }): {
    total: number;
    counts: Record<Coverage, number>;
    columns: readonly string[];
    keywords: CoveredKeyword[];
  } {
    const { all, columns } = this.cover();
    const wanted = foldKeyword(query.search);
    const is = (own: (typeof all)[number], show: Coverage) =>
      show === "all" ||
      (show === "unlisted"
        ? !own.listed
        : show === "none"
          ? own.pages === 0
          : show === "one"
            ? own.pages === 1
            : own.pages > 1);
    const counts = Object.fromEntries(
      COVERAGE.map((show) => [show, all.filter((own) => is(own, show)).length]),
    ) as Record<Coverage, number>;
    const found = all.filter(
      (own) => is(own, query.show) && (wanted === "" || foldKeyword(own.keyword).includes(wanted)),
    );
    const keywords = found
      .slice(query.from, query.from + query.count)
      .map(({ at, ...own }) => ({ ...own, first: at.slice(0, FIRST_PAGES).map((number) => this.pageRef(number)) }));
    return { total: found.length, counts, columns, keywords };
  }

  /** A keyword for every page that has none, as far as one can be found: from the list first, then from the pages' own names. */
  suggestions(
    query: { kind: Kind | "all"; from: number; count: number },
    watch: WorkWatch = {},
  ): { total: number; listed: number; without: number; suggestions: Suggestion[] } {
    const all = this.suggest(watch).filter((own) => query.kind === "all" || own.kind === query.kind);
    const without = this.numbers().filter(
      ({ kind, row }) =>
        (query.kind === "all" || kind === query.kind) &&
        this.workspace.data(kind).items.column("keyword").codes[row] === 0,
    ).length;
    return {
      total: all.length,
      listed: all.filter(({ from }) => from === "list").length,
      without,
      suggestions: all.slice(query.from, query.from + query.count),
    };
  }

  /** Pages that compete for one keyword, the most of them first. */
  competing(
    designs: Designs,
    query: { from: number; count: number },
    watch: WorkWatch = {},
  ): { total: number; competitions: Competition[] } {
    const shared = this.cover()
      .all.filter(({ pages }) => pages > 1)
      .sort((a, b) => (b.volume ?? -1) - (a.volume ?? -1) || b.pages - a.pages || (a.keyword < b.keyword ? -1 : 1));
    const views = new Map(this.list.views(designs, watch).kinds.map((view) => [view.kind, view]));
    const taken = this.takenKeys();
    const weights = this.weights();
    const competitions = shared
      .slice(query.from, query.from + query.count)
      .map(({ keyword, volume, pages, at }): Competition => {
        const own = new Set<string>();
        const competitors = at.slice(0, MOST_COMPETITORS).map((number): Competitor => {
          const { kind, row } = this.place(number);
          const instead =
            suggestFromName(
              this.workspace.words(),
              weights,
              this.page(kind, row),
              (key) => taken.has(key) || own.has(key),
            )?.keyword ?? "";
          if (instead !== "") own.add(keywordKey(this.workspace.words(), instead));
          return {
            ...this.pageRef(number),
            places: this.placesOf(views.get(kind)!, row),
            title: views.get(kind)!.draft.title.textOf(row),
            instead,
          };
        });
        return { keyword, volume, pages, competitors };
      });
    return { total: shared.length, competitions };
  }

  /** The changes that give pages their keywords; those that have them already are left out. */
  changesFor(assignments: readonly Assignment[]): EditChange[] {
    return assignments.flatMap(({ kind, id, keyword }) => {
      const data = this.workspace.data(kind);
      const row = data.rowOf(id);
      const before = row < 0 ? keyword : data.items.value("keyword", row);
      return before === keyword ? [] : [{ item: id, field: "keyword" as const, before, after: keyword }];
    });
  }

  /** Where a page's keyword stands under the drafts. */
  private placesOf(view: KindView, row: number): Place[] {
    const data = this.workspace.data(view.kind);
    const words = this.workspace.words();
    const keyword = words.keyword(data.items.value("keyword", row));
    if (!keyword) return [];
    const proved = (text: TextName) => {
      const form = FORMS[view.draft[text].form[row]! - 1];
      return form !== undefined && form !== "absent" && form !== "partial";
    };
    const stands = (text: string) => {
      const { form } = placeKeyword(words, keyword, text);
      return form !== "absent" && form !== "partial";
    };
    const { title } = view.draft;
    const visible = proved("title") && title.keywordSeen[row] === 1;
    const tests: Record<Place, () => boolean> = {
      title: () => proved("title"),
      "first third": () => visible && title.keywordAt[row]! <= this.workspace.lateFrom("title"),
      visible: () => visible,
      description: () => proved("description"),
      slug: () => proved("slug"),
      H1: () => stands(data.items.value("name", row)),
      "first paragraph": () => stands(data.items.value("intro", row)),
      body: () => stands(readBody(this.workspace.db, data.ids[row]!)),
    };
    return PLACES.filter((place) => tests[place]());
  }

  /** What coverage and suggestions rest on: the pages, the list, and the language that words are read in. */
  private key(): string {
    const { workspace } = this;
    const pages = workspace.kindsWithPages().map((kind) => `${kind} ${workspace.data(kind).stamp}`);
    return [...pages, keywordListVersion(workspace.db)].join("\n");
  }

  private cover(): Covered {
    const key = this.key();
    if (this.covered?.key === key) return this.covered;
    const pages = new Map<string, { keyword: string; at: number[] }>();
    let start = 0;
    for (const kind of this.workspace.kindsWithPages()) {
      const { codes, table } = this.workspace.data(kind).items.column("keyword");
      const folded = table.values.map(foldKeyword);
      for (let row = 0; row < codes.length; row++) {
        if (codes[row] === 0) continue;
        const name = folded[codes[row]!]!;
        const known = pages.get(name);
        if (known) known.at.push(start + row);
        else pages.set(name, { keyword: table.values[codes[row]!]!, at: [start + row] });
      }
      start += codes.length;
    }
    const list = listedKeywords(this.workspace.db);
    const columns = [...new Set(list.flatMap((own) => Object.keys(own.columns)))];
    const listed = list.map(({ keyword, folded, volume, columns: own }) => {
      const at = pages.get(folded)?.at ?? [];
      pages.delete(folded);
      return { keyword, listed: true, volume, columns: own, pages: at.length, at };
    });
    const others = [...pages.values()]
      .map(({ keyword, at }) => ({ keyword, listed: false, volume: null, columns: {}, pages: at.length, at }))
      .sort((a, b) => b.pages - a.pages || (a.keyword < b.keyword ? -1 : 1));
    return (this.covered = { key, all: [...listed, ...others], columns });
  }

  private suggest(watch: WorkWatch): readonly Suggestion[] {
    const key = this.key();
    if (this.suggested?.key === key) return this.suggested.all;
    const words = this.workspace.words();
    const weights = this.weights();
    // Categories first: what many search for is more often about a sort than about one product.
    const free = this.numbers()
      .filter(({ kind, row }) => this.workspace.data(kind).items.column("keyword").codes[row] === 0)
      .sort((a, b) => Number(b.kind === "category") - Number(a.kind === "category"));
    const taken = this.takenKeys();
    const found = new Map<number, Suggestion>();
    // Pages without a keyword by the words of their names, categories and attributes: candidates for keywords of the list.
    const byStem = new Map<number, number[]>();
    const list = listedKeywords(this.workspace.db).filter(({ keyword }) => !taken.has(keywordKey(words, keyword)));
    if (list.length > 0) {
      free.forEach(({ kind, row }, place) => {
        const data = this.workspace.data(kind);
        const stems = new Set(
          [data.items.value("name", row), data.items.value("category", row), ...this.attributes(kind, row)].flatMap(
            (text) => stemsOf(words, text),
          ),
        );
        for (const stem of stems) {
          const own = byStem.get(stem);
          if (own) own.push(place);
          else byStem.set(stem, [place]);
        }
      });
    }
    const tell = (done: number, total: number) => {
      if (watch.cancelled?.()) throw new Cancelled();
      watch.progress?.({
        step: "weighing",
        kind: free[0]?.kind ?? "product",
        text: null,
        side: null,
        share: done / Math.max(1, total),
      });
    };
    list.forEach((own, i) => {
      if (i % STEP === 0) tell(i, list.length * 2);
      const keyword = words.keyword(own.keyword);
      const place = keyword && this.bestPage(keyword, free, byStem, found, weights);
      if (!place) return;
      const { kind, row } = free[place.at]!;
      taken.add(keywordKey(words, own.keyword));
      found.set(place.at, {
        ...this.refOf(kind, row),
        keyword: own.keyword,
        from: "list",
        volume: own.volume,
        evidence: place.evidence,
      });
    });
    free.forEach(({ kind, row }, place) => {
      if (place % STEP === 0) tell(free.length + place, free.length * 2);
      if (found.has(place)) return;
      const made = suggestFromName(words, weights, this.page(kind, row), (own) => taken.has(own));
      if (!made) return;
      taken.add(keywordKey(words, made.keyword));
      found.set(place, {
        ...this.refOf(kind, row),
        keyword: made.keyword,
        from: "name",
        volume: null,
        evidence: made.evidence,
      });
    });
    const all = [...found]
      .sort(([a, one], [b, other]) =>
        one.from === other.from ? (other.volume ?? 0) - (one.volume ?? 0) || a - b : one.from === "list" ? -1 : 1,
      )
      .map(([, own]) => own);
    this.suggested = { key, all };
    return all;
  }

  /** Of the pages that have all of a keyword's telling words the one that it fits best. */
  private bestPage(
    keyword: Keyword,
    free: readonly { kind: Kind; row: number }[],
    byStem: ReadonlyMap<number, readonly number[]>,
    found: ReadonlyMap<number, unknown>,
    weights: TermWeights,
  ): { at: number; evidence: readonly Evidence[] } | null {
    const rarest = keyword.telling.map((stem) => byStem.get(stem) ?? []).sort((a, b) => a.length - b.length)[0]!;
    let best: { at: number; evidence: readonly Evidence[]; weight: number } | null = null;
    let looked = 0;
    for (const at of rarest) {
      if (found.has(at) || looked++ > MOST_LOOKED_AT) continue;
      const fit = fitOf(this.workspace.words(), weights, keyword, {
        ...this.page(free[at]!.kind, free[at]!.row, false),
        body: "",
      });
      if (fit && (!best || fit.weight > best.weight)) best = { at, evidence: fit.evidence, weight: fit.weight };
    }
    return best;
  }

  private weights(): TermWeights {
    const { workspace } = this;
    const site = workspace.site();
    const key = workspace
      .kindsWithPages()
      .map((kind) => `${settingsUsed.items(site, kind)} ${this.loadingNumbers.of(workspace.data(kind).loading)}`)
      .join("\n");
    if (this.weighed?.key !== key) {
      const weights = new TermWeights(workspace.words());
      for (const { kind, row } of this.numbers()) {
        const { items } = workspace.data(kind);
        weights.count(`${items.value("name", row)} ${items.value("category", row)}`);
      }
      this.weighed = { key, weights };
    }
    return this.weighed.weights;
  }

  private takenKeys(): Set<string> {
    const keys = new Set<string>();
    for (const kind of this.workspace.kindsWithPages()) {
      const { codes, table } = this.workspace.data(kind).items.column("keyword");
      for (const code of new Set(codes))
        if (code !== 0) keys.add(keywordKey(this.workspace.words(), table.values[code]!));
    }
    return keys;
  }

  private page(kind: Kind, row: number, body = true): SuggestPage {
    const data = this.workspace.data(kind);
    return {
      name: data.items.value("name", row),
      category: data.items.value("category", row),
      intro: data.items.value("intro", row),
      attributes: this.attributes(kind, row),
      body: body ? readBody(this.workspace.db, data.ids[row]!) : "",
    };
  }

  private attributes(kind: Kind, row: number): string[] {
    const { items, fieldNames } = this.workspace.data(kind);
    return fieldNames
      .filter((name) => !BUILT_IN_NAMES.has(name) && items.holds(name))
      .map((name) => items.value(name, row))
      .filter((value) => value !== "");
  }

  private numbers(): { kind: Kind; row: number }[] {
    return this.workspace
      .kindsWithPages()
      .flatMap((kind) => Array.from(this.workspace.data(kind).ids, (_, row) => ({ kind, row })));
  }

  private place(number: number): { kind: Kind; row: number } {
    let start = 0;
    for (const kind of this.workspace.kindsWithPages()) {
      const { length } = this.workspace.data(kind).ids;
      if (number < start + length) return { kind, row: number - start };
      start += length;
    }
    throw new Refusal("stale", `There is no page ${number} any more`);
  }

  private pageRef(number: number): PageRef {
    const { kind, row } = this.place(number);
    return this.refOf(kind, row);
  }

  private refOf(kind: Kind, row: number): PageRef {
    const data = this.workspace.data(kind);
    return { kind, id: data.ids[row]!, name: data.items.value("name", row), path: data.paths[row]! };
  }
}

/** So many pages are compared for a keyword of the list. */
const MOST_LOOKED_AT = 200;
