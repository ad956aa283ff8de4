import { isExtra, type Kind } from "../../core/design/kinds";
import { type HeldBack } from "../../core/addresses/address-plan";
import { type ReviewedText } from "../../core/plan/review-filter";
import { after, before, type FoundChanges, labelOf, pageRow, partOf, type Unit, worseOf } from "./found-changes";
import { type Inclusion } from "./inclusion";
import { type MoveCost, type MovesAlong } from "./moves-along";

/** A change as the review shows it. */
export interface ReviewedChange {
  readonly id: number;
  readonly kind: Kind;
  readonly text: ReviewedText;
  /** Of an image or a link: which of the page's it is, from 1, and its address, or its text; 0 and `""` for what is neither. */
  readonly part: number;
  readonly label: string;
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
  /** What makes it one for the worse, and how many pages would read alike. */
  readonly worse: ReturnType<typeof worseOf>;
  /** Of a page that moves: what leads to it now; `null` for others, and while bodies are being read. */
  readonly cost: MoveCost | null;
}

/** A change as the review shows it: how it is taken in now, and what its move costs. */
export function reviewedChange(
  found: FoundChanges,
  inclusion: Inclusion,
  place: number,
  costs: ReturnType<MovesAlong["costs"]>,
): ReviewedChange {
  const { changes, units } = found;
  const unit = units[changes.unitOf(place)]!;
  const row = changes.rowOf(place);
  const page = pageRow(unit, row);
  const path = unit.data.paths[page]!;
  const newPath = unit.text === "slug" ? newPathOf(found, inclusion, place) : path;
  return {
    id: unit.data.ids[page]!,
    kind: unit.kind,
    text: unit.text,
    part: partOf(unit, row),
    label: labelOf(unit, row),
    name: unit.data.items.value("name", page),
    before: before(unit, row),
    after: after(unit, row),
    ...sizes(unit, row),
    path,
    newPath,
    included: inclusion.isIncluded(place),
    held: unit.text === "slug" ? inclusion.heldOf(place) : null,
    worse: worseOf(unit, row),
    cost: path !== "" && newPath !== path ? costs(unit.firstPage + page) : null,
  };
}

/** Where the page of a slug’s change goes, or would go if it were taken in. */
function newPathOf({ changes, units, pages, targets }: FoundChanges, inclusion: Inclusion, place: number): string {
  if (inclusion.isIncluded(place)) return inclusion.newPathOf(place);
  const page = units[changes.unitOf(place)]!.firstPage + changes.rowOf(place);
  return targets.get(page) ?? pages.paths[page]!;
}

function sizes(unit: Unit, row: number): Pick<ReviewedChange, "beforeSize" | "afterSize" | "beforeFits" | "afterFits"> {
  if (unit.text === "robots" || unit.text === "body")
    return {
      beforeSize: before(unit, row).length,
      afterSize: after(unit, row).length,
      beforeFits: true,
      afterFits: true,
    };
  const { live, draft } = unit;
  if (isExtra(unit.text))
    return { beforeSize: live.lengths[row]!, afterSize: draft.lengths[row]!, beforeFits: true, afterFits: true };
  return {
    beforeSize: live.sizes[row]!,
    afterSize: draft.sizes[row]!,
    beforeFits: live.fits[row] === 1,
    // A slug whose words were cut is within its limit all the same.
    afterFits: unit.text === "slug" || draft.fits[row] === 1,
  };
}
