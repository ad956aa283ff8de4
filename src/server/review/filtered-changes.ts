import { type ChangeGroup } from "../../core/plan/groups";
import { type ReviewFilter, type ReviewOrder } from "../../core/plan/review-filter";
import { Cancelled } from "../../core/proof/prove-set";
import { type WorkWatch } from "../workspace/watch";
import { after, before, type FoundChanges, pageRow } from "./found-changes";
import { mostChangedFirst } from "./order-changes";

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

  /** @param before what another filter left of the changes: where it left all that this one does, nothing else is looked at. */
  constructor(
    private readonly found: FoundChanges,
    private readonly filter: ReviewFilter,
    before: FilteredChanges | null = null,
  ) {
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
  inOrder(group: ChangeGroup, order: ReviewOrder, watch: WorkWatch = {}): Int32Array {
    const places = this.ofGroup(group, watch);
    if (order === "site") return places;
    let sorted = this.mostChanged.get(group);
    if (!sorted) this.mostChanged.set(group, (sorted = mostChangedFirst(this.found, places, watch)));
    return sorted;
  }

  private isWithin({ found, filter: { kind, text }, words }: FilteredChanges): boolean {
    const isSame = kind === this.filter.kind && text === this.filter.text;
    return found === this.found && isSame && this.words.includes(words);
  }

  private isAll(): boolean {
    return this.filter.kind === null && this.filter.text === null && this.words === "";
  }

  private has(place: number, i: number, watch: WorkWatch): boolean {
    if (i % STEP === 0 && watch.cancelled?.()) throw new Cancelled();
    const { changes, units } = this.found;
    const unit = units[changes.unitOf(place)]!;
    const { kind, text } = this.filter;
    if ((kind !== null && unit.kind !== kind) || (text !== null && unit.text !== text)) return false;
    if (this.words === "") return true;
    const row = changes.rowOf(place);
    const page = pageRow(unit, row);
    const { data } = unit;
    const has = (own: string) => this.pattern.test(own);
    // What has to be put together comes last.
    return (
      has(data.items.value("name", page)) || has(data.paths[page]!) || has(before(unit, row)) || has(after(unit, row))
    );
  }
}
