import { findingBit, type FindingId, findingIds, FINDINGS, type Subject } from "../core/checks/findings";
import { type FoundText } from "../core/checks/check-text";
import { type Kind, type TextName, TEXTS } from "../core/design/kinds";
import { type TextProof } from "../core/proof/text-proof";
import { type EngineWatch, type ProofEngine } from "./proof-engine";
import { type Designs } from "./review";
import { countFindings, type FindingCount, type KindFindings, type Side, type SiteFindings } from "./site-findings";

/** Ways to put all pages in order: as the site has them, by name, by how wide a text is, by how many findings they have. */
export const ITEM_SORTS = ["site", "name", "widest", "shortest", "findings"] as const;
export type ItemSort = (typeof ITEM_SORTS)[number];

/** Which pages are wanted, and in what order. */
export interface ItemQuery {
  /** Only pages of one kind, or of all. */
  readonly kind: Kind | "all";
  /** Which side the finding, the width and the number of findings are of. */
  readonly side: Side;
  /** Only pages with this finding. */
  readonly finding: { readonly subject: Subject; readonly id: FindingId } | null;
  /** Words that the page's name, address or title hold, all of them. */
  readonly search: string;
  readonly sort: ItemSort;
  readonly from: number;
  readonly count: number;
}

/** One text of a page on both sides. */
export interface ListedText {
  readonly live: string;
  readonly draft: string;
  /** Px; characters for slugs. */
  readonly liveSize: number;
  readonly draftSize: number;
  readonly liveFits: boolean;
  readonly draftFits: boolean;
}

/** A page as the list shows it. */
export interface ListedItem {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  readonly path: string;
  readonly keyword: string;
  readonly title: ListedText;
  /** What was found, on both sides, what it is about and what it is. */
  readonly findings: Readonly<Record<Side, readonly { readonly subject: Subject; readonly id: FindingId }[]>>;
}

/** A page whole: its texts on both sides, and its findings with where they stand. */
export interface ItemSheet {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  readonly path: string;
  readonly keyword: string;
  readonly texts: Readonly<Record<TextName, ListedText>>;
  readonly found: Readonly<Record<Side, { readonly texts: Readonly<Record<TextName, readonly FoundText[]>>; readonly page: readonly FindingId[] }>>;
}

interface KindView {
  readonly kind: Kind;
  readonly start: number;
  readonly live: Record<TextName, TextProof>;
  readonly draft: Record<TextName, TextProof>;
  readonly found: Readonly<Record<Side, KindFindings>>;
}

interface Checked {
  readonly key: string;
  readonly live: ReadonlyMap<Kind, KindFindings>;
  readonly draft: ReadonlyMap<Kind, KindFindings>;
  readonly counts: readonly FindingCount[];
}

const SUBJECTS = Object.keys(FINDINGS) as Subject[];

/** All pages of a site in one list, filtered by what was found in them. */
export class ItemsList {
  private checked: Checked | null = null;
  private order: { key: string; rows: Int32Array } | null = null;

  constructor(
    private readonly engine: ProofEngine,
    private readonly findings: SiteFindings,
  ) {}

  /** The counts of all findings, and a stretch of the pages asked for. */
  list(designs: Designs, query: ItemQuery, watch: EngineWatch = {}): { counts: readonly FindingCount[]; total: number; items: ListedItem[] } {
    const { counts } = this.check(designs, watch);
    const views = this.views(designs, watch);
    const order = this.ordered(designs, views, query);
    const items: ListedItem[] = [];
    for (let i = query.from; i < Math.min(order.length, query.from + query.count); i++) {
      const view = viewOf(views, order[i]!);
      items.push(this.listed(view, order[i]! - view.start));
    }
    return { counts, total: order.length, items };
  }

  /** One page whole, `null` where there is none with that id. */
  sheet(designs: Designs, kind: Kind, id: number): ItemSheet | null {
    const data = this.engine.data(kind);
    const row = data.rowOf(id);
    if (row < 0) return null;
    const view = this.views(designs, {}).find((own) => own.kind === kind)!;
    return {
      id,
      kind,
      name: data.items.value("name", row),
      path: data.paths[row]!,
      keyword: data.items.value("keyword", row),
      texts: Object.fromEntries(TEXTS.map((text) => [text, listedText(view, text, row)])) as Record<TextName, ListedText>,
      found: { live: this.findings.explain(designs, kind, row, "live"), draft: this.findings.explain(designs, kind, row, "draft") },
    };
  }

  /** What was found, checked again only where drafts or items changed. */
  private check(designs: Designs, watch: EngineWatch): Checked {
    const key = JSON.stringify([designs, this.engine.site(), this.engine.boardKinds().map((kind) => this.engine.data(kind, watch).revision)]);
    if (this.checked?.key !== key) {
      this.checked = null;
      const live = this.findings.find(designs, "live", watch);
      const draft = this.findings.find(designs, "draft", watch);
      this.checked = { key, live, draft, counts: countFindings(live, draft) };
    }
    return this.checked;
  }

  private views(designs: Designs, watch: EngineWatch): KindView[] {
    const { live, draft } = this.check(designs, watch);
    let start = 0;
    return this.engine.boardKinds().map((kind): KindView => {
      const proofs = (of: (text: TextName) => TextProof) => Object.fromEntries(TEXTS.map((text) => [text, of(text)])) as Record<TextName, TextProof>;
      const view = { kind, start, live: proofs((text) => this.engine.liveProof(kind, text).proof), draft: proofs((text) => this.engine.textProof(kind, text, designs[kind]!).proof), found: { live: live.get(kind)!, draft: draft.get(kind)! } };
      start += view.live.title.size;
      return view;
    });
  }

  private ordered(designs: Designs, views: readonly KindView[], query: ItemQuery): Int32Array {
    const key = JSON.stringify([designs, views.map(({ kind }) => this.engine.data(kind).revision), { ...query, from: 0, count: 0 }]);
    if (this.order?.key === key) return this.order.rows;
    const words = query.search.toLowerCase().split(/\s+/).filter(Boolean);
    const found: number[] = [];
    for (const view of views) {
      if (query.kind !== "all" && query.kind !== view.kind) continue;
      const data = this.engine.data(view.kind);
      const bits = query.finding ? view.found[query.side][query.finding.subject] : null;
      const bit = query.finding ? findingBit(query.finding.subject, query.finding.id) : 0;
      for (let row = 0; row < view.live.title.size; row++) {
        if (bits !== null && (bits[row]! & bit) === 0) continue;
        if (words.length > 0) {
          const text = `${data.items.value("name", row)} ${data.paths[row]} ${data.live.title[row]}`.toLowerCase();
          if (!words.every((word) => text.includes(word))) continue;
        }
        found.push(view.start + row);
      }
    }
    const rows = this.sorted(found, views, query);
    this.order = { key, rows };
    return rows;
  }

  private sorted(found: readonly number[], views: readonly KindView[], { sort, side }: ItemQuery): Int32Array {
    if (sort === "site") return Int32Array.from(found);
    if (sort === "name") {
      const names = new Map(found.map((at) => [at, this.nameOf(views, at)]));
      const collator = new Intl.Collator("en", { numeric: true });
      return Int32Array.from([...found].sort((a, b) => collator.compare(names.get(a)!, names.get(b)!) || a - b));
    }
    const keys = new Float64Array(views.reduce((sum, view) => sum + view.live.title.size, 0));
    for (const at of found) {
      const view = viewOf(views, at);
      const row = at - view.start;
      keys[at] = sort === "findings" ? -SUBJECTS.reduce((sum, subject) => sum + bitCount(view.found[side][subject][row]!), 0) : view[side].title.sizes[row]! * (sort === "widest" ? -1 : 1);
    }
    return Int32Array.from(found).sort((a, b) => keys[a]! - keys[b]! || a - b);
  }

  private nameOf(views: readonly KindView[], at: number): string {
    const view = viewOf(views, at);
    return this.engine.data(view.kind).items.value("name", at - view.start);
  }

  private listed(view: KindView, row: number): ListedItem {
    const data = this.engine.data(view.kind);
    const all = (side: Side) => SUBJECTS.flatMap((subject) => findingIds(subject, view.found[side][subject][row]!).map((id) => ({ subject, id })));
    return {
      id: data.ids[row]!,
      kind: view.kind,
      name: data.items.value("name", row),
      path: data.paths[row]!,
      keyword: data.items.value("keyword", row),
      title: listedText(view, "title", row),
      findings: { live: all("live"), draft: all("draft") },
    };
  }
}

function viewOf(views: readonly KindView[], at: number): KindView {
  let found = views[0]!;
  for (const view of views) if (view.start <= at) found = view;
  return found;
}

function listedText(view: KindView, text: TextName, row: number): ListedText {
  const [live, draft] = [view.live[text], view.draft[text]];
  return {
    live: live.textOf(row),
    draft: draft.textOf(row),
    liveSize: live.sizes[row]!,
    draftSize: draft.sizes[row]!,
    liveFits: live.fits[row] === 1,
    draftFits: text === "slug" || draft.fits[row] === 1,
  };
}

function bitCount(bits: number): number {
  let count = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++;
  return count;
}
