import { followedCanonical, readCanonical } from "../../core/addresses/canonical";
import { LIVE } from "../../core/proof/text-proof";
import { type FollowedLink } from "../links/link-set";
import { type FoundChanges, type Unit } from "./found-changes";

/**
 * What the canonicals of other pages have to say so that they name the pages that they name once those have moved. One that a line or a
 * person decides says what they say.
 *
 * @param movesTo where each page that moves goes, by its number. @param pageAt the number of the page at an address in normal form.
 */
export function canonicalsFollowing(
  { units, pages }: FoundChanges,
  movesTo: ReadonlyMap<number, string>,
  pageAt: ReadonlyMap<string, number>,
  baseUrl: string,
): FollowedLink[] {
  const followed: FollowedLink[] = [];
  for (const { kind, data, firstPage, text } of units) {
    // Every kind has this unit, once.
    if (text !== "robots") continue;
    const decided = units.find((own) => own.kind === kind && own.text === "canonical");
    data.pageExtra("canonical").forEach((before, row) => {
      if (before === "" || data.hands.canonical.has(row) || (decided && isDecided(decided, row))) return;
      const { address } = readCanonical(before, baseUrl);
      const target = address === null ? undefined : pageAt.get(address);
      const to = target === undefined || target === firstPage + row ? undefined : movesTo.get(target);
      if (to === undefined) return;
      const after = followedCanonical(before, to);
      followed.push({ item: data.ids[row]!, number: 0, text: "", before, after, follows: pages.ids[target!]! });
    });
  }
  return followed;
}

/** Whether a line or a person says what a page’s canonical is to be; where a line comes to nothing, the site’s stays. */
function isDecided(unit: Unit, row: number): boolean {
  return unit.text === "canonical" && unit.draft.from[row] !== LIVE && unit.draft.lengths[row] !== 0;
}
