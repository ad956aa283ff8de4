import { difference } from "../../core/proof/order";
import { Cancelled } from "../../core/proof/prove-set";
import { type WorkWatch } from "../workspace/watch";
import { after, before, type FoundChanges, pageRow } from "./found-changes";
import { type MoveCost } from "./moves-along";

/** So many changes are looked at before it is asked whether somebody still waits. */
const STEP = 2048;

/**
 * Places of changes in another order: those that change the most characters first, equal ones as the site has them.
 *
 * @throws {Cancelled} where nobody waits for them any more.
 */
export function mostChangedFirst(found: FoundChanges, places: Int32Array, watch: WorkWatch): Int32Array {
  const { changes, units } = found;
  const keys = new Float64Array(places.length);
  for (let i = 0; i < places.length; i++) {
    if (i % STEP === 0 && watch.cancelled?.()) throw new Cancelled();
    const unit = units[changes.unitOf(places[i]!)]!;
    const row = changes.rowOf(places[i]!);
    // One number holds how much changes and the place, so that numbers are sorted and no function compares them.
    keys[i] = -difference(before(unit, row), after(unit, row)) * places.length + i;
  }
  keys.sort();
  return Int32Array.from(keys, (key) => places[((key % places.length) + places.length) % places.length]!);
}

/** Places of changes in another order: those of pages first that most links lead to, then most redirects, equal ones as the site has them. */
export function mostLinkedFirst(
  { changes, units }: FoundChanges,
  places: Int32Array,
  costs: (page: number) => MoveCost | null,
): Int32Array {
  const weights = new Map<number, number>();
  for (const place of places) {
    const unit = units[changes.unitOf(place)]!;
    const cost = costs(unit.firstPage + pageRow(unit, changes.rowOf(place)));
    weights.set(place, cost ? cost.links * 1e6 + Math.min(cost.redirects, 1e6 - 1) : 0);
  }
  return Int32Array.from(places).sort((a, b) => weights.get(b)! - weights.get(a)! || a - b);
}
