import { type KindDesign, movesOf } from "../design/design";
import { checkSlugItself, type SlugBounds } from "./check-text";
import { SLUG_FAULTS, type SlugFault } from "./slug-fault-ids";

/** A page as far as it counts for whether it may move. */
export interface MovablePage {
  /** `""` for none. */
  readonly path: string;
  readonly slug: string;
}

/** A bit for each fault that a slug has by itself, in the order of {@link SLUG_FAULTS}. @param max the most characters of a slug. */
export function slugFaultBits({ path, slug }: MovablePage, bounds: SlugBounds & { readonly max: number }): number {
  let bits = 0;
  checkSlugItself({ text: slug, room: bounds.max, path }, bounds, (id) => (bits |= bitOf(id)));
  return bits;
}

function bitOf(fault: SlugFault): number {
  return 1 << SLUG_FAULTS.indexOf(fault);
}

/**
 * The faults for which a design lets a page with an address move, as bits: none of them where such pages stay, all and more where all
 * move.
 */
export function movingBits({ moves, movesFor }: Pick<KindDesign, "moves" | "movesFor">): number {
  const who = movesOf({ moves });
  if (who === "new") return 0;
  if (who === "all") return MOVES_ANYWAY;
  const faults: readonly SlugFault[] = movesFor ?? SLUG_FAULTS;
  return faults.reduce((bits, fault) => bits | bitOf(fault), 0);
}

/** Stands among the bits of a design that moves pages whatever their slugs are. */
export const MOVES_ANYWAY = 1 << SLUG_FAULTS.length;
