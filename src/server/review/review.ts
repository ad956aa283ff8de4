import { type Designs } from "../../core/design/designs";
import { CHANGE_GROUPS, type ChangeGroup } from "../../core/plan/groups";
import { ALL_CHANGES, type ReviewFilter, type ReviewOrder } from "../../core/plan/review-filter";
import { Refusal } from "../../core/refusal";
import { hashOf } from "./digest";
import { type SiteViews } from "../items/site-views";
import { type FollowedLink } from "../links/link-set";
import { type RedirectChange } from "../redirects/redirect-set";
import { facetsOf, type ReviewFacets } from "./change-facets";
import { FilteredChanges } from "./filtered-changes";
import { HeldMends } from "./held-mends";
import {
  choiceKey,
  type ChangeScope,
  type ChangeStretch,
  isAnyChosen,
  keptAct,
  readChoices,
} from "../../store/review-choices";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { findChanges, type FoundChanges, markOf, pageRow, partOf, rowOfPart } from "./found-changes";
import { type Inclusion, includedChanges } from "./inclusion";
import { groupFigures, pagesChanged, type ReviewSummary, shares } from "./review-summary";
import { type ReviewedChange, reviewedChange } from "./reviewed-change";
import { movesOf, MovesView } from "./moves-view";
import { type LinksOfMoves, type MovesAlong, movesAlongOf } from "./moves-along";
import { mostLinkedFirst } from "./order-changes";

/** What goes out with a run. */
export interface Going {
  readonly found: FoundChanges;
  readonly inclusion: Inclusion;
  /** Links, and canonicals, that are rewritten because pages move. */
  readonly followed: readonly FollowedLink[];
}

/** A link that follows a move, with the name of the page that it is on. */
export type NamedLink = FollowedLink & { readonly page: string };

/** A stretch of what moves bring along. */
export type AlongMoves = { readonly total: number } & (
  | { readonly what: "links"; readonly rows: readonly NamedLink[] }
  | { readonly what: "redirects"; readonly rows: readonly RedirectChange[] }
);

/** Live against draft over all kinds: the changes in groups, and what of them goes out. */
export class Review {
  private found: FoundChanges | null = null;
  private filtered: {
    readonly of: FoundChanges;
    readonly views: SiteViews | null;
    readonly key: string;
    readonly value: FilteredChanges;
  } | null = null;
  private facets: { readonly of: FoundChanges; readonly views: SiteViews; readonly value: ReviewFacets } | null = null;
  private moves: { readonly of: Inclusion; readonly value: ReturnType<typeof movesOf> } | null = null;
  private inclusion: { readonly of: FoundChanges; readonly choices: string; readonly value: Inclusion } | null = null;
  private readonly mends: HeldMends;

  /** @param viewsOf what was found on every page; without it nothing can be filtered by a finding. */
  constructor(
    private readonly workspace: Workspace,
    private readonly viewsOf: (designs: Designs, watch: WorkWatch) => SiteViews = withoutViews,
    private readonly along: MovesAlong = movesAlongOf(workspace),
  ) {
    this.mends = new HeldMends(workspace.db);
  }

  /** What the changes can be filtered by, whatever the filter. */
  facetsOf(designs: Designs, watch: WorkWatch = {}): ReviewFacets {
    const found = this.changes(designs, watch);
    const views = this.viewsOf(designs, watch);
    if (this.facets?.of !== found || this.facets.views !== views)
      this.facets = { of: found, views, value: facetsOf(found, views) };
    return this.facets.value;
  }

  summary(designs: Designs, filter = ALL_CHANGES, watch: WorkWatch = {}): ReviewSummary {
    const found = this.changes(designs, watch);
    const inclusion = this.included(found);
    const shown = this.shownBy(designs, found, filter, watch);
    const groups = CHANGE_GROUPS.map((group) => groupFigures(found, inclusion, group, shown.ofGroup(group, watch)));
    const stays = found.changes.ofGroup("by-hand").length;
    const links = this.along.linksOf(found, inclusion, watch);
    const followed = inclusion.followsLinks ? links : null;
    return {
      stamp: found.stamp,
      goingOut: goingOut(found, inclusion, links),
      groups: groups.filter((group) => group.count > 0),
      ...shares(found),
      included: inclusion.count + (followed?.links.length ?? 0),
      isChosen: isAnyChosen(this.workspace.db),
      lastChoice: keptAct(this.workspace.db),
      held: found.changes.length - inclusion.count - stays,
      items: pagesChanged(found, inclusion, followed),
      total: found.changes.length,
      moves: inclusion.plan.moves.filter(({ from }) => from !== "").length,
      links: links && {
        count: links.links.length,
        canonicals: links.links.reduce((count, { number }) => count + (number === 0 ? 1 : 0), 0),
        pages: links.pages,
      },
      followsLinks: inclusion.followsLinks,
      errors: found.errors,
    };
  }

  /** A stretch of a group's changes. */
  list(
    designs: Designs,
    query: { group: ChangeGroup; filter?: ReviewFilter; order?: ReviewOrder; from: number; count: number },
    watch: WorkWatch = {},
  ): { stamp: string; total: number; changes: ReviewedChange[] } {
    const found = this.changes(designs);
    const inclusion = this.included(found);
    const filtered = this.shownBy(designs, found, query.filter ?? ALL_CHANGES, watch);
    const costs = this.along.costs(found, watch);
    const order = query.order ?? "site";
    const places =
      order === "linked"
        ? mostLinkedFirst(found, filtered.ofGroup(query.group, watch), costs)
        : filtered.inOrder(query.group, order, watch);
    const stretch = places.subarray(query.from, query.from + query.count);
    const changes = Array.from(stretch, (place) => reviewedChange(found, inclusion, place, costs));
    return { stamp: found.stamp, total: places.length, changes };
  }

  /** A stretch of what the moves bring along: links that follow them, or redirects. */
  movesAlong(
    designs: Designs,
    { what, from, count }: { readonly what: "links" | "redirects"; readonly from: number; readonly count: number },
    watch: WorkWatch = {},
  ): AlongMoves {
    const found = this.changes(designs, watch);
    const inclusion = this.included(found);
    const stretch = <T>(all: readonly T[]) => ({ total: all.length, rows: all.slice(from, from + count) });
    if (what === "redirects") return { what, ...stretch(this.along.redirectsOf(inclusion, watch)) };
    const { total, rows } = stretch(this.along.linksOf(found, inclusion, watch)?.links ?? []);
    return { what, total, rows: rows.map((link) => ({ ...link, page: this.nameOf(link.item) })) };
  }

  /** The moves, looked at in the Addresses view. */
  movesView(designs: Designs, watch: WorkWatch = {}): MovesView {
    const found = this.changes(designs, watch);
    const inclusion = this.included(found);
    const costs = this.along.costs(found, watch);
    if (this.moves?.of !== inclusion) this.moves = { of: inclusion, value: movesOf(found, inclusion) };
    return new MovesView(found, inclusion, this.moves.value, costs);
  }

  private nameOf(item: number): string {
    for (const kind of this.workspace.kindsWithPages()) {
      const data = this.workspace.data(kind);
      const row = data.rowOf(item);
      if (row >= 0) return data.items.value("name", row);
    }
    return "";
  }

  /** Whether a change is of a group. */
  isOfGroup(designs: Designs, group: ChangeGroup): (scope: ChangeScope) => boolean {
    return this.stretchesOf(designs, [group], ALL_CHANGES).isMember;
  }

  /** The texts of kinds in groups that a filter by kinds and texts alone leaves, and whether a change is of one of them. */
  stretchesOf(
    designs: Designs,
    groups: readonly ChangeGroup[],
    filter: ReviewFilter,
  ): { readonly stretches: readonly ChangeStretch[]; readonly isMember: (scope: ChangeScope) => boolean } {
    const found = this.changes(designs);
    const { units } = found;
    const shown = this.shownBy(designs, found, filter);
    const own = units.filter(({ kind, text }) => (filter.kind ?? kind) === kind && (filter.text ?? text) === text);
    const members = new Set<string>();
    for (const group of groups)
      for (const place of shown.ofGroup(group)) {
        const { item, text, part } = scopeAt(found, place);
        members.add(`${item} ${choiceKey(text, part)}`);
      }
    return {
      stretches: groups.flatMap((group) => own.map(({ kind, text }) => ({ group, kind, text }))),
      isMember: ({ item, text, part = 0 }) => members.has(`${item} ${choiceKey(text, part)}`),
    };
  }

  /** Each change in groups that a filter leaves, with what it is told by. */
  marksOf(
    designs: Designs,
    groups: readonly ChangeGroup[],
    filter: ReviewFilter,
  ): readonly { readonly scope: ChangeScope; readonly mark: string }[] {
    const found = this.changes(designs);
    const shown = this.shownBy(designs, found, filter);
    return groups.flatMap((group) =>
      Array.from(shown.ofGroup(group), (place) => {
        const unit = found.units[found.changes.unitOf(place)]!;
        return { scope: scopeAt(found, place), mark: markOf(found, unit, found.changes.rowOf(place)) };
      }),
    );
  }

  /** What a change is told by now. @throws {Refusal} `stale` where there is no such change any more. */
  markOf(designs: Designs, { item, text, part = 0 }: ChangeScope): string {
    const found = this.changes(designs);
    for (const unit of found.units) {
      const row = unit.text === text ? rowOfPart(unit, unit.data.rowOf(item), part) : -1;
      if (row >= 0) return markOf(found, unit, row);
    }
    throw new Refusal("stale", "That change no longer exists. Check the review again.");
  }

  /**
   * What would go out now.
   *
   * @param lookedAt `goingOut` of the review that was looked at. @throws {Refusal} `stale` where something else would go out by now.
   */
  going(designs: Designs, lookedAt: string): Going {
    const found = this.changes(designs);
    const inclusion = this.included(found);
    const links = this.along.linksOf(found, inclusion);
    if (inclusion.followsLinks && !links)
      throw new Refusal("busy", "Bodies are still being read for their links. Wait a moment, then apply again.");
    if (goingOut(found, inclusion, links) !== lookedAt)
      throw new Refusal(
        "stale",
        "Pages, drafts, settings or ticks changed since you opened this review. Nothing was applied; check it again.",
      );
    if (inclusion.count === 0) throw new Refusal("invalid", "No change is included: there is nothing to apply");
    return { found, inclusion, followed: inclusion.followsLinks ? links!.links : [] };
  }

  private shownBy(designs: Designs, found: FoundChanges, filter: ReviewFilter, watch: WorkWatch = {}): FilteredChanges {
    const { kind, text, words, rule, category, finding } = filter;
    const key = JSON.stringify([kind, text, words, rule, category, finding]);
    const views = finding === null ? null : this.viewsOf(designs, watch);
    const { filtered } = this;
    if (filtered?.of === found && filtered.views === views && filtered.key === key) return filtered.value;
    const value = new FilteredChanges(found, filter, views, filtered?.value);
    this.filtered = { of: found, views, key, value };
    return value;
  }

  private changes(designs: Designs, watch: WorkWatch = {}): FoundChanges {
    const { links, digest } = this.mends.now();
    const stamp = this.stampOf(designs, digest, watch);
    if (this.found?.stamp !== stamp) this.found = findChanges(this.workspace, designs, { mends: links, stamp }, watch);
    return this.found;
  }

  /** Of all that the changes rest on; the settings whole, since they decide what a change is worth, too. */
  private stampOf(designs: Designs, mends: string, watch: WorkWatch): string {
    const { workspace } = this;
    const kinds = workspace.kindsWithPages(watch);
    return hashOf(
      JSON.stringify([
        workspace.site(),
        mends,
        kinds.map((kind) => [kind, designs[kind], workspace.data(kind).revision]),
      ]),
    );
  }

  private included(found: FoundChanges): Inclusion {
    const choices = readChoices(this.workspace.db);
    const { groups, stretches, followsLinks } = choices;
    const key = JSON.stringify([
      followsLinks,
      [...groups],
      [...stretches],
      [...choices.changes].map(([item, texts]) => [item, [...texts]]),
    ]);
    if (this.inclusion?.of !== found || this.inclusion.choices !== key) {
      const before = this.inclusion?.of === found ? this.inclusion.value : null;
      this.inclusion = { of: found, choices: key, value: includedChanges(found, choices, before) };
    }
    return this.inclusion.value;
  }
}

function withoutViews(): never {
  throw new Error("This review knows no findings");
}

function goingOut(found: FoundChanges, { digest, followsLinks }: Inclusion, links: LinksOfMoves | null): string {
  return hashOf(`${found.stamp} ${digest} ${followsLinks ? (links?.digest ?? "being read") : ""}`);
}

function scopeAt({ changes, units }: FoundChanges, place: number): Required<ChangeScope> & { readonly part: number } {
  const unit = units[changes.unitOf(place)]!;
  const row = changes.rowOf(place);
  return { item: unit.data.ids[pageRow(unit, row)]!, text: unit.text, part: partOf(unit, row) };
}
