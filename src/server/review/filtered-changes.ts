import { type ChangeGroup } from "../../core/plan/groups";
import { type ReviewFilter, type ReviewOrder } from "../../core/plan/review-filter";
import { Cancelled } from "../../core/proof/prove-set";
import { type WorkWatch } from "../workspace/watch";
import { type SiteViews } from "../items/site-views";
import { categoryColumn, findingOf, isWithin, ownerOf } from "./change-facets";
import { after, before, type FoundChanges, pageRow, type Unit } from "./found-changes";
import { mostChangedFirst } from "./order-changes";

/** What of a filter is the same or another: words are typed on. */
const FIXED = ["kind", "text", "rule", "category", "finding"] as const satisfies (keyof ReviewFilter)[];
/** So many changes are looked at before it is asked whether somebody still waits. */
const STEP = 2048;

/** The changes of a review that a filter leaves. */
export class FilteredChanges {
  private readonly groups = new Map<ChangeGroup, Int32Array>();
  private readonly mostChanged = new Map<ChangeGroup, Int32Array>();
  private readonly words: string;
  private readonly pattern: RegExp;
  /** Where the changes are looked for, by group; among all of a group that is not in it. */
  private readonly among: ReadonlyMap<ChangeGroup, Int32Array>;

  /** By unit: which codes of its pages' categories are asked for, `null` for all. */
  private readonly categories: readonly ({ readonly codes: Int32Array; readonly wanted: Uint8Array } | null)[];
  private readonly finding: ReturnType<typeof findingOf>;
  /** By unit, what its pages have of the subject that the finding is about. */
  private readonly bits: readonly (Int32Array | null)[];

  /**
   * @param views what was found on the pages; only a filter by a finding needs it.
   * @param before what another filter left of the changes: where it left all that this one does, nothing else is looked at.
   */
  constructor(
    private readonly found: FoundChanges,
    private readonly filter: ReviewFilter,
    views: SiteViews | null,
    before: FilteredChanges | null = null,
  ) {
    const { category, finding } = filter;
    this.categories = found.units.map((unit) => (category === null ? null : wantedCategories(unit, category)));
    this.finding = finding === null ? null : findingOf(finding);
    this.bits = found.units.map(({ kind }) => {
      const view = views?.kinds.find((own) => own.kind === kind);
      return this.finding && view ? view.found.live[this.finding.subject] : null;
    });
    this.words = filter.words.trim().toLowerCase();
    this.pattern = new RegExp(filter.words.trim().replace(/[\\^$.*+?()[\]{}|/]/g, "\\$&"), "iu");
    this.among = before && this.isWithin(before) ? before.groups : new Map();
  }

  /**
   * The places of a group's changes in the list of all, rising.
   *
   * @throws {Cancelled} where nobody waits for them any more.
   */
  ofGroup(group: ChangeGroup, watch: WorkWatch = {}): Int32Array {
    const known = this.groups.get(group);
    if (known) return known;
    const all = this.among.get(group) ?? this.found.changes.ofGroup(group);
    const places = this.isAll() ? all : all.filter((place, i) => this.has(place, i, watch));
    this.groups.set(group, places);
    return places;
  }

  /** The same in an order. */
  inOrder(group: ChangeGroup, order: Exclude<ReviewOrder, "linked">, watch: WorkWatch = {}): Int32Array {
    const places = this.ofGroup(group, watch);
    if (order === "site") return places;
    let sorted = this.mostChanged.get(group);
    if (!sorted) this.mostChanged.set(group, (sorted = mostChangedFirst(this.found, places, watch)));
    return sorted;
  }

  private isWithin({ found, filter, words, bits }: FilteredChanges): boolean {
    const isSame = FIXED.every((part) => filter[part] === this.filter[part]);
    const isFoundSame = bits.every((own, unit) => own === this.bits[unit]);
    return found === this.found && isSame && isFoundSame && this.words.includes(words);
  }

  private isAll(): boolean {
    return FIXED.every((part) => this.filter[part] === null) && this.words === "";
  }

  private has(place: number, i: number, watch: WorkWatch): boolean {
    if (i % STEP === 0 && watch.cancelled?.()) throw new Cancelled();
    const { changes, units } = this.found;
    const unit = units[changes.unitOf(place)]!;
    const { kind, text } = this.filter;
    if ((kind !== null && unit.kind !== kind) || (text !== null && unit.text !== text)) return false;
    const row = changes.rowOf(place);
    const page = pageRow(unit, row);
    const category = this.categories[changes.unitOf(place)];
    if (category && category.wanted[category.codes[page]!] === 0) return false;
    if (this.filter.finding !== null && !this.hasFinding(changes.unitOf(place), page)) return false;
    if (this.filter.rule !== null && ownerOf(unit, row) !== this.filter.rule) return false;
    if (this.words === "") return true;
    const { data } = unit;
    const has = (own: string) => this.pattern.test(own);
    // What has to be put together comes last.
    return (
      has(data.items.value("name", page)) || has(data.paths[page]!) || has(before(unit, row)) || has(after(unit, row))
    );
  }

  private hasFinding(unit: number, page: number): boolean {
    return this.finding !== null && ((this.bits[unit]?.[page] ?? 0) & this.finding.bit) !== 0;
  }
}

function wantedCategories(unit: Unit, category: string): { codes: Int32Array; wanted: Uint8Array } {
  const { codes, table } = categoryColumn(unit);
  return { codes, wanted: Uint8Array.from(table.values, (path) => (isWithin(path, category) ? 1 : 0)) };
}
