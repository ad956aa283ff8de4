import { type AddressPlan, type HeldBack, planAddresses } from "../../core/plan/address-plan";
import { CHANGE_GROUPS, LEFT_OUT_AT_FIRST, NEVER_APPLIED } from "../../core/plan/groups";
import { type ReviewChoices } from "../../store/review-choices";
import { after, type FoundChanges, markOf } from "./found-changes";

/** Which of the found changes go out, and where pages go with them. */
export interface Inclusion {
  /** How many changes go out. */
  readonly count: number;
  readonly plan: AddressPlan;
  /** Whether the change at a place of the list goes out. */
  readonly isIncluded: (place: number) => boolean;
  /** Why a slug that is taken in does not go out all the same. */
  readonly heldOf: (place: number) => HeldBack | null;
  /** Where a page is after the run. */
  readonly newPathOf: (place: number) => string;
  /** What the plan was made of: another one where other slugs are taken in. */
  readonly slugsTaken: string;
}

/** @param previous what was worked out for other choices: where the same slugs are taken in, pages go where they went. */
export function includedChanges(found: FoundChanges, choices: ReviewChoices, previous: Inclusion | null): Inclusion {
  const { changes, units, pages } = found;
  const isTaken = takenIn(found, choices);
  const taken: number[] = [];
  for (let place = 0; place < changes.length; place++) {
    const unit = units[changes.unitOf(place)]!;
    if (unit.text === "slug" && isTaken(place)) taken.push(place);
  }
  const slugsTaken = taken.join(" ");
  const plan = previous?.slugsTaken === slugsTaken ? previous.plan : planOf(found, taken);
  const pageOf = (place: number) => units[changes.unitOf(place)]!.firstPage + changes.rowOf(place);
  const heldOf = (place: number) =>
    plan.held.size > 0 && units[changes.unitOf(place)]!.text === "slug" ? (plan.held.get(pageOf(place)) ?? null) : null;
  const isIncluded = (place: number) => isTaken(place) && heldOf(place) === null;
  const newPaths = new Map(plan.moves.map(({ page, to }) => [page, to]));
  let count = 0;
  for (let place = 0; place < changes.length; place++) if (isIncluded(place)) count++;
  return {
    count,
    plan,
    isIncluded,
    heldOf,
    newPathOf: (place) => newPaths.get(pageOf(place)) ?? pages.paths[pageOf(place)]!,
    slugsTaken,
  };
}

/** Where pages go when the slugs at these places are taken in. What can never be applied holds back what lies below it, too. */
function planOf({ changes, units, pages }: FoundChanges, taken: readonly number[]): AddressPlan {
  if (taken.length === 0) return { moves: [], held: new Map() };
  const slugs = new Map<number, string>();
  const fixed = new Set<number>();
  for (const place of taken) {
    const unit = units[changes.unitOf(place)]!;
    slugs.set(unit.firstPage + changes.rowOf(place), after(unit, changes.rowOf(place)));
  }
  for (const group of ["clash", "reserved"] as const)
    for (const place of changes.ofGroup(group)) {
      const unit = units[changes.unitOf(place)]!;
      if (pages.paths[unit.firstPage + changes.rowOf(place)] !== "") fixed.add(unit.firstPage + changes.rowOf(place));
    }
  return planAddresses({ paths: pages.paths, folders: pages.folders, slugs, fixed });
}

/** Whether a person's word, or what holds until one says otherwise, takes the change at a place in. */
function takenIn({ changes, units }: FoundChanges, choices: ReviewChoices): (place: number) => boolean {
  const groups = new Map(
    CHANGE_GROUPS.map((group) => [
      group,
      !NEVER_APPLIED.has(group) && (choices.groups.get(group) ?? !LEFT_OUT_AT_FIRST.has(group)),
    ]),
  );
  return (place) => {
    const group = changes.groupOf(place);
    const byGroup = groups.get(group)!;
    if (choices.changes.size === 0 || NEVER_APPLIED.has(group)) return byGroup;
    const unit = units[changes.unitOf(place)]!;
    const row = changes.rowOf(place);
    // Single choices are few beside the changes: what a change is told by is put together only where there is one.
    const choice = choices.changes.get(unit.data.ids[row]!)?.get(unit.text);
    const holds = choice !== undefined && (choice.mark === null || choice.mark === markOf(unit, row));
    return holds ? choice.included : byGroup;
  };
}
