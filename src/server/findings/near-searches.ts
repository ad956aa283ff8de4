import { findingBit, type Side } from "../../core/checks/findings";
import { switchedOn } from "../../core/checks/settings";
import { differs, type TextProof } from "../../core/proof/text-proof";
import { type NearFinder, type NearFound, type WordingOf } from "./near-finder";
import { type KindSide, type SiteContext } from "./site-context";

/** The texts that are searched for ones that read nearly the same. */
export type SearchedText = "title" | "description";

/** A search under way. */
export interface Search {
  /** Whether wording is looked at there, and not row by row. */
  readonly outsourced: boolean;
  /** What was found, once it is there; rows without anything found have -1 and 0. `null` for what is not asked for. */
  readonly found: (alive: () => void) => { readonly partners: Int32Array | null; readonly wording: Int32Array | null };
  /** Says that nobody waits for it any more. */
  readonly abandon: () => void;
}

interface KnownPartners {
  /** The texts, and what was asked of them. */
  readonly stamp: string;
  readonly partners: Int32Array;
}

const SIDES: readonly Side[] = ["live", "draft"];

/** Searches for titles and descriptions that read nearly the same; where they read as they did, what was found is at hand. */
export class NearSearches {
  private readonly known = new Map<string, KnownPartners>();
  private readonly stamps = new WeakMap<TextProof, string>();

  constructor(private readonly finder: NearFinder) {}

  /** @param wantsWording whether nothing was checked yet: all texts go to the search anyway, and their wording is looked at there, too. */
  begin({ kind, side, proofs }: KindSide, text: SearchedText, context: SiteContext, wantsWording: boolean): Search {
    const proof = proofs[text];
    const wording: WordingOf | null = wantsWording ? { subject: text, year: context.year } : null;
    const isOn = (switchedOn(context.checks, text) & findingBit(text, "near-duplicate")) !== 0;
    const name = `${kind} ${side} ${text}`;
    const share = context.checks.nearShare;
    const stamp = `${this.stampOf(proof)} ${share}`;
    // Where a draft leaves every text as it is, the other side's answer is its own.
    const before = SIDES.map((own) => this.known.get(`${kind} ${own} ${text}`)).find((own) => own?.stamp === stamp);
    if (!wording && (!isOn || before))
      return {
        outsourced: false,
        found: () => ({ partners: isOn ? before!.partners : null, wording: null }),
        abandon: () => {},
      };
    const { placeOf, places } = onePlaceEach(proof);
    const search = this.finder({ texts: places.map((row) => proof.textOf(row)), share, wording });
    const found = (alive: () => void) => {
      const all: NearFound = search.found(alive);
      const partners = spread(placeOf, all.partners, -1);
      this.known.set(name, { stamp, partners });
      return { partners: isOn ? partners : null, wording: all.wording && spread(placeOf, all.wording, 0) };
    };
    return { outsourced: wording !== null, found, abandon: search.abandon };
  }

  /** The same for proofs whose texts are all the same. */
  private stampOf(proof: TextProof): string {
    let stamp = this.stamps.get(proof);
    if (stamp === undefined) {
      let [one, two] = [proof.size, proof.size];
      for (let row = 0; row < proof.size; row++) {
        one = (Math.imul(one, 0x01000193) ^ proof.exact1[row]!) | 0;
        two = (Math.imul(two, 0x5bd1e995) ^ proof.exact2[row]!) | 0;
      }
      this.stamps.set(proof, (stamp = `${proof.size} ${one} ${two}`));
    }
    return stamp;
  }
}

function spread(placeOf: Int32Array, found: Int32Array, none: number): Int32Array {
  const all = new Int32Array(placeOf.length).fill(none);
  for (let row = 0; row < all.length; row++) if (placeOf[row]! >= 0) all[row] = found[placeOf[row]!]!;
  return all;
}

/** Of rows that read the same the first, and for each row its place among those; -1 where it has no text. */
function onePlaceEach(proof: TextProof): { placeOf: Int32Array; places: number[] } {
  const first = new Map<number, number>();
  const placeOf = new Int32Array(proof.size).fill(-1);
  const places: number[] = [];
  for (let row = 0; row < proof.size; row++) {
    const group = proof.groups.groupOf(row);
    if (group < 0) continue;
    // Groups are told case aside; wording is not: only what is written alike, too, has one place.
    const known = proof.groups.countOf(row) === 1 ? undefined : first.get(group);
    if (known !== undefined && !differs(proof, proof, row, places[known]!)) {
      placeOf[row] = known;
      continue;
    }
    placeOf[row] = places.length;
    if (proof.groups.countOf(row) > 1 && known === undefined) first.set(group, places.length);
    places.push(row);
  }
  return { placeOf, places };
}
