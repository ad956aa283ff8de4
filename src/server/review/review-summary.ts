import { type Kind } from "../../core/design/kinds";
import { type ChangeGroup, NEVER_APPLIED } from "../../core/plan/groups";
import { noTexts, type ReviewedText } from "../../core/plan/review-filter";
import { type ChoiceAct } from "../../store/review-choices";
import { type FoundChanges, pageRow, type Unit } from "./found-changes";
import { type Inclusion } from "./inclusion";
import { type LinksOfMoves } from "./moves-along";

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

/** How many changes a kind has, or a text, whatever the filter. */
export interface ReviewShare<T> {
  readonly of: T;
  readonly count: number;
}

export interface ReviewSummary {
  /** Another one where drafts, settings or pages are. */
  readonly stamp: string;
  /** Another one where anything else would go out, be it for what another window took in or left out: a run is started with it. */
  readonly goingOut: string;
  /** Of the changes that the filter leaves. */
  readonly groups: readonly ReviewGroup[];
  readonly kinds: readonly ReviewShare<Kind>[];
  readonly texts: readonly ReviewShare<ReviewedText>[];
  /** Changes that would be applied now. */
  readonly included: number;
  /** Whether a person said something of groups or changes that holds beyond what is taken in at first. */
  readonly isChosen: boolean;
  /** The last word on many changes at once, which can be taken back; `null` for none. */
  readonly lastChoice: ChoiceAct | null;
  /** Changes that wait to be taken in, or that nobody can take in; texts by hand that stay are none. */
  readonly held: number;
  /** Pages that they change. */
  readonly items: number;
  readonly total: number;
  /** Pages whose address moves, those below a moved page included; each gets a redirect. */
  readonly moves: number;
  /** The links that lead to pages which move, or would lead astray from them, with canonicals that name those; `null` while bodies are being read. */
  readonly links: { readonly count: number; readonly canonicals: number; readonly pages: number } | null;
  /** Whether they are rewritten with the moves. */
  readonly followsLinks: boolean;
  readonly errors: FoundChanges["errors"];
}

/** How many changes a group has, of which texts, and what of it is taken in. */
export function groupFigures(
  { changes, units }: FoundChanges,
  { isIncluded, heldOf }: Inclusion,
  group: ChangeGroup,
  places: Int32Array,
): ReviewGroup {
  const ofUnit = new Int32Array(units.length);
  const takenOfUnit = new Int32Array(units.length);
  let held = 0;
  for (let i = 0; i < places.length; i++) {
    const place = places[i]!;
    const unit = changes.unitOf(place);
    ofUnit[unit]!++;
    if (isIncluded(place)) takenOfUnit[unit]!++;
    else if (units[unit]!.text === "slug" && heldOf(place) !== null) held++;
  }
  const byText = noTexts();
  const includedByText = noTexts();
  units.forEach(({ text }, unit) => {
    byText[text] += ofUnit[unit]!;
    includedByText[text] += takenOfUnit[unit]!;
  });
  const included = takenOfUnit.reduce((sum, count) => sum + count, 0);
  return { group, count: places.length, included, held, fixed: NEVER_APPLIED.has(group), byText, includedByText };
}

/** How many pages change. */
export function pagesChanged(
  { changes, units }: FoundChanges,
  { isIncluded }: Inclusion,
  followed: LinksOfMoves | null,
): number {
  const rows = new Map(units.map(({ kind, data }) => [kind, new Uint8Array(data.ids.length)]));
  const rowsOf = units.map(({ kind }) => rows.get(kind)!);
  let pages = 0;
  for (let place = 0; place < changes.length; place++) {
    if (!isIncluded(place)) continue;
    const unit = changes.unitOf(place);
    const own = rowsOf[unit]!;
    const page = pageRow(units[unit]!, changes.rowOf(place));
    if (own[page] === 0) pages++;
    own[page] = 1;
  }
  const dataOf = new Map(units.map(({ kind, data }) => [kind, data]));
  for (const item of new Set(followed?.links.map((link) => link.item)))
    if (![...dataOf].some(([kind, data]) => rows.get(kind)![data.rowOf(item)] === 1)) pages++;
  return pages;
}

/** How many changes each kind and each text has. */
export function shares({ changes, units }: FoundChanges): Pick<ReviewSummary, "kinds" | "texts"> {
  const ofUnit = new Int32Array(units.length);
  for (let place = 0; place < changes.length; place++) ofUnit[changes.unitOf(place)]!++;
  const added = <T>(of: (unit: Unit) => T): ReviewShare<T>[] => {
    const counts = new Map<T, number>();
    units.forEach((unit, i) => counts.set(of(unit), (counts.get(of(unit)) ?? 0) + ofUnit[i]!));
    return [...counts].flatMap(([own, count]) => (count > 0 ? [{ of: own, count }] : []));
  };
  return { kinds: added(({ kind }) => kind), texts: added(({ text }) => text) };
}
