import { type FolderFlows, folderFlows, type PathPair } from "../../core/addresses/folder-flows";
import { type HeldBack } from "../../core/addresses/address-plan";
import { folderOf } from "../../core/addresses/addresses";
import { differs, HAND } from "../../core/proof/text-proof";
import { type Kind } from "../../core/design/kinds";
import { type ChangeGroup } from "../../core/plan/groups";
import { type FoundChanges, pageRow } from "./found-changes";
import { type Inclusion } from "./inclusion";
import { type MoveCost } from "./moves-along";

/** Why a page goes elsewhere: another slug by its line or by hand, another place by its address line, both, or one above it that moves. */
export const MOVE_CAUSES = ["slug", "hand", "address", "slug-and-address", "hand-and-address", "along"] as const;
export type MoveCause = (typeof MOVE_CAUSES)[number];
/** Why a page goes elsewhere, or what is in the way. */
export type MoveReason = MoveCause | HeldBack["why"] | "reserved";

/** A page that goes elsewhere, would if it were included, or cannot. */
export interface ListedMove {
  readonly id: number;
  readonly kind: Kind;
  readonly name: string;
  /** `""` for none yet. */
  readonly from: string;
  readonly to: string;
  readonly reason: MoveReason;
  /** Whether it cannot go. */
  readonly isHeld: boolean;
  readonly included: boolean;
  readonly cost: MoveCost | null;
}

/** All moves that drafts make, by page. */
interface Move {
  readonly page: number;
  /** The change’s place in the list of all; -1 for a page that only moves along. */
  readonly place: number;
  readonly to: string;
}

export interface MovesFigures {
  /** Pages that go elsewhere, those that move along included. */
  readonly included: number;
  /** Pages that would if they were included. */
  readonly left: number;
  /** Pages that cannot. */
  readonly held: number;
  /** Pages that get their first address. */
  readonly gets: number;
}

/** Which of the moves are shown. */
export interface MovesFilter {
  /** In or below this folder, before or after; with a slash at its end, `/` for all. */
  readonly folder: string;
  readonly search: string;
  readonly show: "all" | "included" | "held";
}

const MOVE_GROUPS: readonly ChangeGroup[] = ["gets-address", "moves", "written", "worse", "clash", "reserved"];
/** So many folders are drawn. */
const MOST_FOLDERS = 12;

/** The moves of a review as the Addresses view shows them. */
export class MovesView {
  constructor(
    private readonly found: FoundChanges,
    private readonly inclusion: Inclusion,
    private readonly moves: readonly Move[],
    private readonly costs: (page: number) => MoveCost | null,
  ) {}

  /** How many pages go elsewhere now, how many would beside them, and how many cannot. */
  figures(): MovesFigures {
    const figures = { included: 0, left: 0, held: 0, gets: 0 };
    for (const move of this.moves) {
      if (isHeld(this.reasonOf(move))) figures.held++;
      else if (!this.isIncluded(move)) figures.left++;
      else if (this.found.pages.paths[move.page] === "") figures.gets++;
      else figures.included++;
    }
    return figures;
  }

  list(
    filter: MovesFilter,
    { from, count }: { readonly from: number; readonly count: number },
  ): { readonly total: number; readonly moves: readonly ListedMove[]; readonly version: string } {
    const words = filter.search.toLowerCase().split(/\s+/).filter(Boolean);
    const shown = this.moves.filter((move) => this.isShown(move, filter, words));
    const moves = shown.slice(from, from + count).map((move) => this.listed(move));
    return { total: shown.length, moves, version: `${this.found.stamp} ${this.inclusion.digest}` };
  }

  /** How pages go between folders with what is included now. */
  folders(within: string): FolderFlows {
    const { paths } = this.found.pages;
    const next = new Map(this.inclusion.plan.moves.map(({ page, to }) => [page, to]));
    const pairs: PathPair[] = paths.map((from, page) => ({ from, to: next.get(page) ?? from }));
    return folderFlows(pairs, within, MOST_FOLDERS);
  }

  private isShown(move: Move, { folder, show }: MovesFilter, words: readonly string[]): boolean {
    const from = this.found.pages.paths[move.page]!;
    if (folder !== "/" && !from.startsWith(folder) && !move.to.startsWith(folder)) return false;
    if (show === "included" && !this.isIncluded(move)) return false;
    if (show === "held" && !isHeld(this.reasonOf(move))) return false;
    if (words.length === 0) return true;
    const text = `${from} ${move.to} ${this.nameOf(move)}`.toLowerCase();
    return words.every((word) => text.includes(word));
  }

  private isIncluded({ place }: Move): boolean {
    return place < 0 || this.inclusion.isIncluded(place);
  }

  private reasonOf(move: Move): MoveReason {
    const { place } = move;
    if (place < 0) return "along";
    const group = this.found.changes.groupOf(place);
    if (group === "clash" || group === "reserved") return group;
    return this.inclusion.heldOf(place)?.why ?? this.causeOf(move);
  }

  private causeOf({ place, page, to }: Move): MoveCause {
    const { changes, units, pages, addresses } = this.found;
    const unit = units[changes.unitOf(place)]!;
    const row = changes.rowOf(place);
    if (unit.text !== "slug") return "along";
    const isOtherSlug = differs(unit.draft, unit.live, row) && unit.draft.lengths[row] !== 0;
    const slug = unit.draft.from[row] === HAND ? "hand" : "slug";
    const from = pages.paths[page]!;
    // Without an address line it goes with the folder that it is in.
    if (!addresses.isShaped(unit.kind)) return slug;
    if (from === "" || folderOf(from) === folderOf(to)) return isOtherSlug || from === "" ? slug : "address";
    return isOtherSlug ? `${slug}-and-address` : "address";
  }

  private listed(move: Move): ListedMove {
    const { pages } = this.found;
    const from = pages.paths[move.page]!;
    const reason = this.reasonOf(move);
    return {
      id: pages.ids[move.page]!,
      kind: this.dataOf(move.page).kind,
      name: this.nameOf(move),
      from,
      to: move.to,
      reason,
      isHeld: isHeld(reason),
      included: this.isIncluded(move) && !isHeld(reason),
      cost: from === "" ? null : this.costs(move.page),
    };
  }

  private nameOf({ page }: Move): string {
    const { data, firstPage } = this.dataOf(page);
    return data.items.value("name", page - firstPage);
  }

  private dataOf(page: number): FoundChanges["units"][number] {
    return this.found.units.find(({ firstPage, data }) => page >= firstPage && page < firstPage + data.ids.length)!;
  }
}

function isHeld(reason: MoveReason): boolean {
  return !(MOVE_CAUSES as readonly string[]).includes(reason);
}

/** Each page that its lines take elsewhere, or would; then those that only move along. */
export function movesOf({ changes, units, pages, targets, refused }: FoundChanges, { plan }: Inclusion): Move[] {
  const moves: Move[] = [];
  const listed = new Set<number>();
  const next = new Map(plan.moves.map(({ page, to }) => [page, to]));
  for (const group of MOVE_GROUPS)
    for (const place of changes.ofGroup(group)) {
      const unit = units[changes.unitOf(place)]!;
      if (unit.text !== "slug") continue;
      const page = unit.firstPage + pageRow(unit, changes.rowOf(place));
      const to = next.get(page) ?? targets.get(page) ?? refused.get(page) ?? pages.paths[page]!;
      moves.push({ page, place, to });
      listed.add(page);
    }
  for (const { page, to } of plan.moves) if (!listed.has(page)) moves.push({ page, place: -1, to });
  return moves.sort((a, b) => a.page - b.page);
}
