import { type ChangeGroup } from "../../core/plan/groups";
import { type ReviewFilter } from "../../core/plan/review-filter";
import { after, before, type FoundChanges, pageRow } from "./found-changes";

/** The changes of a review that a filter leaves. */
export class FilteredChanges {
  private readonly groups = new Map<ChangeGroup, Int32Array>();
  private readonly words: string;

  constructor(
    private readonly found: FoundChanges,
    private readonly filter: ReviewFilter,
  ) {
    this.words = filter.words.trim().toLowerCase();
  }

  /** The places of a group's changes in the list of all, rising. */
  ofGroup(group: ChangeGroup): Int32Array {
    const known = this.groups.get(group);
    if (known) return known;
    const all = this.found.changes.ofGroup(group);
    const places = this.isAll() ? all : all.filter((place) => this.has(place));
    this.groups.set(group, places);
    return places;
  }

  private isAll(): boolean {
    return this.filter.kind === null && this.filter.text === null && this.words === "";
  }

  private has(place: number): boolean {
    const { changes, units } = this.found;
    const unit = units[changes.unitOf(place)]!;
    const { kind, text } = this.filter;
    if ((kind !== null && unit.kind !== kind) || (text !== null && unit.text !== text)) return false;
    if (this.words === "") return true;
    const row = changes.rowOf(place);
    const page = pageRow(unit, row);
    const { data } = unit;
    return [data.items.value("name", page), data.paths[page]!, before(unit, row), after(unit, row)].some((own) =>
      own.toLowerCase().includes(this.words),
    );
  }
}
