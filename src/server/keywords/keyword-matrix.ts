import { findingBit, type Side } from "../../core/checks/findings";
import { type Kind } from "../../core/design/kinds";
import { type Place, PLACE_FINDINGS, PLACES } from "../../core/keywords/places";
import { idsWithBody } from "../../store/items";
import { type Db } from "../../store/open";
import { type KindView } from "../items/site-views";

type Counts = Readonly<Record<Place, number>>;

/** One kind's pages in the matrix: how many have a keyword, and of those how many have it in each place, on one side. */
export interface MatrixRow {
  readonly kind: Kind;
  readonly pages: number;
  readonly withKeyword: number;
  readonly missing: Readonly<Record<Side, Counts>>;
  /** And how many have nothing there that it could stand in: no introduction, no body, no text. */
  readonly blank: Readonly<Record<Side, Counts>>;
}

export function matrixRow(db: Db, view: KindView): MatrixRow {
  const { codes } = view.data.items.column("keyword");
  let withKeyword = 0;
  for (let row = 0; row < codes.length; row++) if (codes[row] !== 0) withKeyword++;
  return {
    kind: view.kind,
    pages: codes.length,
    withKeyword,
    missing: { live: missing(view, "live"), draft: missing(view, "draft") },
    blank: { live: blank(db, view, "live"), draft: blank(db, view, "draft") },
  };
}

const noCounts = () => Object.fromEntries(PLACES.map((place) => [place, 0])) as Record<Place, number>;

/** Of the pages with a keyword how many do not have it in each place. */
function missing(view: KindView, side: Side): Counts {
  const counts = noCounts();
  for (const place of PLACES) {
    const { subject, id } = PLACE_FINDINGS[place];
    const bit = findingBit(subject, id);
    const bits = view.found[side][subject];
    for (let row = 0; row < bits.length; row++) if ((bits[row]! & bit) !== 0) counts[place]++;
  }
  return counts;
}

/** Of the pages with a keyword how many have nothing in each place. */
function blank(db: Db, view: KindView, side: Side): Counts {
  const { items, ids } = view.data;
  const { codes } = items.column("keyword");
  const intro = items.column("intro").codes;
  const bodies = idsWithBody(db, view.kind);
  const { title, description, slug } = view[side];
  const isBlank: Record<Place, (row: number) => boolean> = {
    title: (row) => title.lengths[row] === 0,
    "first third": (row) => title.lengths[row] === 0,
    visible: (row) => title.lengths[row] === 0,
    description: (row) => description.lengths[row] === 0,
    slug: (row) => slug.lengths[row] === 0,
    H1: () => false,
    "first paragraph": (row) => intro[row] === 0,
    body: (row) => !bodies.has(ids[row]!),
  };
  const counts = noCounts();
  for (let row = 0; row < codes.length; row++) {
    if (codes[row] === 0) continue;
    for (const place of PLACES) if (isBlank[place](row)) counts[place]++;
  }
  return counts;
}
