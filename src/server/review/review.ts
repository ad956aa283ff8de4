import { createHash } from "node:crypto";
import { type Designs } from "../../core/design/designs";
import { type Kind } from "../../core/design/kinds";
import { type HeldBack } from "../../core/plan/address-plan";
import { CHANGE_GROUPS, type ChangeGroup, NEVER_APPLIED } from "../../core/plan/groups";
import { Refusal } from "../../core/refusal";
import { choiceKey, type ChangeScope, readChoices } from "../../store/review-choices";
import { type WorkWatch } from "../workspace/watch";
import { imageRow } from "../workspace/page-images";
import { type Workspace } from "../workspace/workspace";
import {
  after,
  before,
  findChanges,
  type FoundChanges,
  imageOf,
  markOf,
  pageRow,
  partOf,
  type ReviewedText,
  type Unit,
} from "./found-changes";
import { type Inclusion, includedChanges } from "./inclusion";

/** A change as the review shows it. */
export interface ReviewedChange {
  readonly id: number;
  readonly kind: Kind;
  readonly text: ReviewedText;
  /** Of an image: which of the page's it is, from 1, and its address; 0 and `""` for what is no image's. */
  readonly part: number;
  readonly image: string;
  readonly name: string;
  readonly before: string;
  readonly after: string;
  readonly beforeSize: number;
  readonly afterSize: number;
  readonly beforeFits: boolean;
  readonly afterFits: boolean;
  /** Where the page is, and where it goes with what is taken in now; `""` for no address. */
  readonly path: string;
  readonly newPath: string;
  readonly included: boolean;
  /** Why it is not applied though it is taken in. */
  readonly held: HeldBack | null;
}

export interface ReviewGroup {
  readonly group: ChangeGroup;
  readonly count: number;
  readonly included: number;
  /** Taken in, but held back for an address. */
  readonly held: number;
  /** Whether it can never be taken in. */
  readonly fixed: boolean;
  readonly byText: Readonly<Record<ReviewedText, number>>;
  /** Of those the ones that are taken in. */
  readonly includedByText: Readonly<Record<ReviewedText, number>>;
}

export interface ReviewSummary {
  /** Another one where drafts, settings or pages are: what was looked at is told by it. */
  readonly stamp: string;
  readonly groups: readonly ReviewGroup[];
  /** Changes that would be applied now. */
  readonly included: number;
  /** Changes that wait to be taken in, or that nobody can take in; texts by hand that stay are none. */
  readonly held: number;
  /** Pages that they change. */
  readonly items: number;
  readonly total: number;
  /** Pages whose address moves, those below a moved page included; each gets a redirect. */
  readonly moves: number;
  readonly errors: FoundChanges["errors"];
}

const NO_TEXTS: Readonly<Record<ReviewedText, number>> = {
  title: 0,
  description: 0,
  slug: 0,
  robots: 0,
  alt: 0,
  keywords: 0,
};

/** Live against draft over all kinds: the changes in groups, and what of them goes out. */
export class Review {
  private found: FoundChanges | null = null;
  private inclusion: { readonly of: FoundChanges; readonly choices: string; readonly value: Inclusion } | null = null;

  constructor(private readonly workspace: Workspace) {}

  summary(designs: Designs, watch: WorkWatch = {}): ReviewSummary {
    const found = this.changes(designs, watch);
    const inclusion = this.included(found);
    const rows = new Map(found.units.map(({ kind, data }) => [kind, new Uint8Array(data.ids.length)]));
    const groups = CHANGE_GROUPS.map((group) => groupFigures(found, inclusion, group, rows));
    const included = groups.reduce((sum, own) => sum + own.included, 0);
    const stays = found.changes.ofGroup("by-hand").length;
    let items = 0;
    for (const own of rows.values()) for (const one of own) items += one;
    return {
      stamp: found.stamp,
      groups: groups.filter((group) => group.count > 0),
      included,
      held: found.changes.length - included - stays,
      items,
      total: found.changes.length,
      moves: inclusion.plan.moves.filter(({ from }) => from !== "").length,
      errors: found.errors,
    };
  }

  /** A stretch of a group's changes. */
  list(
    designs: Designs,
    query: { group: ChangeGroup; from: number; count: number },
  ): { stamp: string; total: number; changes: ReviewedChange[] } {
    const found = this.changes(designs);
    const inclusion = this.included(found);
    const places = found.changes.ofGroup(query.group);
    const stretch = places.subarray(query.from, query.from + query.count);
    const changes = Array.from(stretch, (place) => shown(found, inclusion, place));
    return { stamp: found.stamp, total: places.length, changes };
  }

  /** Whether a change is of a group. */
  isOfGroup(designs: Designs, group: ChangeGroup): (scope: ChangeScope) => boolean {
    const { changes, units } = this.changes(designs);
    const members = new Set<string>();
    for (const place of changes.ofGroup(group)) {
      const unit = units[changes.unitOf(place)]!;
      const row = changes.rowOf(place);
      members.add(`${unit.data.ids[pageRow(unit, row)]} ${choiceKey(unit.text, partOf(unit, row))}`);
    }
    return ({ item, text, part = 0 }) => members.has(`${item} ${choiceKey(text, part)}`);
  }

  /** What a change is told by now. @throws {Refusal} `stale` where there is no such change any more. */
  markOf(designs: Designs, { item, text, part = 0 }: ChangeScope): string {
    const { units } = this.changes(designs);
    for (const unit of units) {
      const page = unit.text === text ? unit.data.rowOf(item) : -1;
      const row = page < 0 || !unit.images ? page : imageRow(unit.images, page, part);
      if (row >= 0) return markOf(unit, row);
    }
    throw new Refusal("stale", "That change is no longer there. Look at the review again.");
  }

  /**
   * What would go out now.
   *
   * @param stamp that of the review that was looked at. @throws {Refusal} `stale` where it is another one by now.
   */
  going(designs: Designs, stamp: string): { found: FoundChanges; inclusion: Inclusion } {
    const found = this.changes(designs);
    if (found.stamp !== stamp)
      throw new Refusal(
        "stale",
        "The pages, the drafts or the settings changed since this review was made. Nothing was applied; look at it as it is now.",
      );
    const inclusion = this.included(found);
    if (inclusion.count === 0) throw new Refusal("invalid", "Nothing is taken in: there is no change to apply");
    return { found, inclusion };
  }

  private changes(designs: Designs, watch: WorkWatch = {}): FoundChanges {
    const stamp = this.stampOf(designs, watch);
    if (this.found?.stamp !== stamp) this.found = findChanges(this.workspace, designs, stamp, watch);
    return this.found;
  }

  /** Of all that the changes rest on; the settings whole, since they decide what a change is worth, too. */
  private stampOf(designs: Designs, watch: WorkWatch): string {
    const { workspace } = this;
    const kinds = workspace.kindsWithPages(watch);
    return hashOf(
      JSON.stringify([workspace.site(), kinds.map((kind) => [kind, designs[kind], workspace.data(kind).revision])]),
    );
  }

  private included(found: FoundChanges): Inclusion {
    const choices = readChoices(this.workspace.db);
    const key = JSON.stringify([[...choices.groups], [...choices.changes].map(([item, texts]) => [item, [...texts]])]);
    if (this.inclusion?.of !== found || this.inclusion.choices !== key) {
      const before = this.inclusion?.of === found ? this.inclusion.value : null;
      this.inclusion = { of: found, choices: key, value: includedChanges(found, choices, before) };
    }
    return this.inclusion.value;
  }
}

function groupFigures(
  { changes, units }: FoundChanges,
  { isIncluded, heldOf }: Inclusion,
  group: ChangeGroup,
  rows: ReadonlyMap<Kind, Uint8Array>,
): ReviewGroup {
  const places = changes.ofGroup(group);
  const byText = { ...NO_TEXTS };
  const includedByText = { ...NO_TEXTS };
  let included = 0;
  let held = 0;
  const rowsOf = units.map(({ kind }) => rows.get(kind)!);
  for (let i = 0; i < places.length; i++) {
    const place = places[i]!;
    const unit = changes.unitOf(place);
    const { text } = units[unit]!;
    byText[text]++;
    if (isIncluded(place)) {
      included++;
      includedByText[text]++;
      rowsOf[unit]![pageRow(units[unit]!, changes.rowOf(place))] = 1;
    } else if (text === "slug" && heldOf(place) !== null) held++;
  }
  return { group, count: places.length, included, held, fixed: NEVER_APPLIED.has(group), byText, includedByText };
}

function shown(found: FoundChanges, inclusion: Inclusion, place: number): ReviewedChange {
  const { changes, units } = found;
  const unit = units[changes.unitOf(place)]!;
  const row = changes.rowOf(place);
  const page = pageRow(unit, row);
  const path = unit.data.paths[page]!;
  return {
    id: unit.data.ids[page]!,
    kind: unit.kind,
    text: unit.text,
    part: partOf(unit, row),
    image: imageOf(unit, row),
    name: unit.data.items.value("name", page),
    before: before(unit, row),
    after: after(unit, row),
    ...sizes(unit, row),
    path,
    newPath: unit.text === "slug" ? inclusion.newPathOf(place) : path,
    included: inclusion.isIncluded(place),
    held: unit.text === "slug" ? inclusion.heldOf(place) : null,
  };
}

function sizes(unit: Unit, row: number): Pick<ReviewedChange, "beforeSize" | "afterSize" | "beforeFits" | "afterFits"> {
  if (unit.text === "robots")
    return {
      beforeSize: before(unit, row).length,
      afterSize: after(unit, row).length,
      beforeFits: true,
      afterFits: true,
    };
  const { live, draft } = unit;
  if (unit.text === "alt" || unit.text === "keywords")
    return { beforeSize: live.lengths[row]!, afterSize: draft.lengths[row]!, beforeFits: true, afterFits: true };
  return {
    beforeSize: live.sizes[row]!,
    afterSize: draft.sizes[row]!,
    beforeFits: live.fits[row] === 1,
    // A slug whose words were cut is within its limit all the same.
    afterFits: unit.text === "slug" || draft.fits[row] === 1,
  };
}

/** A digest of a text, short enough to travel. */
function hashOf(text: string): string {
  return createHash("sha256").update(text).digest("base64url").slice(0, 24);
}
