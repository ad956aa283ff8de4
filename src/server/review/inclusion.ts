import { WantedSlugs } from "../../core/addresses/address-parts";
import { type AddressPlan, type HeldBack, nothingMoves, planAddresses } from "../../core/addresses/address-plan";
import { CHANGE_GROUPS, LEFT_OUT_AT_FIRST, NEVER_APPLIED, SLUG_GROUPS } from "../../core/plan/groups";
import { choiceKey, type ReviewChoices, stretchKey } from "../../store/review-choices";
import { hashOf } from "./digest";
import { type FoundChanges, markOf, pageRow, partOf, slugToBe } from "./found-changes";

/** Which of the found changes go out, and where pages go with them. */
export interface Inclusion {
  /** How many changes go out. */
  readonly count: number;
  /** Of which changes go out: another one where others do. */
  readonly digest: string;
  readonly plan: AddressPlan;
  /** Whether the change at a place of the list goes out. */
  readonly isIncluded: (place: number) => boolean;
  /** Why a slug that is taken in does not go out all the same. */
  readonly heldOf: (place: number) => HeldBack | null;
  /** Where a page is after the run. */
  readonly newPathOf: (place: number) => string;
  /** What the plan was made of: another one where other slugs are taken in. */
  readonly slugsTaken: string;
  /** Whether links that lead to moving pages are rewritten with them. */
  readonly followsLinks: boolean;
}

/** @param previous what was worked out for other choices: where the same slugs are taken in, pages go where they went. */
export function includedChanges(found: FoundChanges, choices: ReviewChoices, previous: Inclusion | null): Inclusion {
  const { changes, units, pages } = found;
  const included = takenIn(found, choices);
  const pageOf = (place: number) => {
    const unit = units[changes.unitOf(place)]!;
    return unit.firstPage + pageRow(unit, changes.rowOf(place));
  };
  const taken: number[] = [];
  for (const group of SLUG_GROUPS)
    for (const place of changes.ofGroup(group))
      if (included[place] === 1 && units[changes.unitOf(place)]!.text === "slug") taken.push(place);
  const slugsTaken = taken.join(" ");
  const plan = previous?.slugsTaken === slugsTaken ? previous.plan : planOf(found, taken);
  if (plan.held.size > 0) for (const place of taken) if (plan.held.has(pageOf(place))) included[place] = 0;
  const newPaths = new Map(plan.moves.map(({ page, to }) => [page, to]));
  let count = 0;
  for (let place = 0; place < included.length; place++) count += included[place]!;
  return {
    count,
    digest: hashOf(included),
    plan,
    isIncluded: (place) => included[place] === 1,
    heldOf: (place) => plan.held.get(pageOf(place)) ?? null,
    newPathOf: (place) => newPaths.get(pageOf(place)) ?? pages.paths[pageOf(place)]!,
    slugsTaken,
    followsLinks: choices.followsLinks,
  };
}

/** Where pages go when the slugs at these places are taken in. What can never be applied holds back what lies below it, too. */
function planOf({ changes, units, pages, addresses }: FoundChanges, taken: readonly number[]): AddressPlan {
  if (taken.length === 0) return nothingMoves(pages.known);
  const slugs = new Map<number, string>();
  const fixed = new Set<number>();
  for (const place of taken) {
    const unit = units[changes.unitOf(place)]!;
    slugs.set(unit.firstPage + changes.rowOf(place), slugToBe(unit, changes.rowOf(place)));
  }
  for (const group of ["clash", "reserved"] as const)
    for (const place of changes.ofGroup(group)) {
      const page = units[changes.unitOf(place)]!.firstPage + changes.rowOf(place);
      if (pages.paths[page] !== "") fixed.add(page);
    }
  return planAddresses({
    known: pages.known,
    slugs: new WantedSlugs(pages.known, slugs),
    fixed,
    shaped: addresses.shaped,
  });
}

/** 1 for each change that a person's word, or what holds until one says otherwise, takes in. */
function takenIn(found: FoundChanges, choices: ReviewChoices): Uint8Array {
  const { changes, units } = found;
  const included = new Uint8Array(changes.length);
  for (const group of CHANGE_GROUPS) {
    if (NEVER_APPLIED.has(group)) continue;
    const places = changes.ofGroup(group);
    const whole = choices.groups.get(group) ?? !LEFT_OUT_AT_FIRST.has(group);
    const ofUnit = units.map(({ kind, text }) => choices.stretches.get(stretchKey({ group, kind, text })) ?? whole);
    for (const place of places) if (ofUnit[changes.unitOf(place)]) included[place] = 1;
    if (choices.changes.size === 0) continue;
    // Single choices are few beside the changes: what a change is told by is put together only where there is one.
    for (const place of places) {
      const unit = units[changes.unitOf(place)]!;
      const row = changes.rowOf(place);
      const own = choices.changes.get(unit.data.ids[pageRow(unit, row)]!);
      const choice = own?.get(choiceKey(unit.text, partOf(unit, row)));
      if (choice && (choice.mark === null || choice.mark === markOf(found, unit, row)))
        included[place] = choice.included ? 1 : 0;
    }
  }
  return included;
}
