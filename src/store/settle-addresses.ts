import { type Place } from "./compare-items";

/**
 * Of rows that would put pages where others are, those that may: each page in the way leaves its address by one of them, as where
 * two swap theirs.
 */
export function settleAddresses<T>(
  rows: readonly T[],
  placeOf: (row: T) => Place,
): { readonly free: readonly T[]; readonly taken: readonly { readonly row: T; readonly place: Place }[] } {
  let free = rows.map((row) => ({ row, place: placeOf(row) }));
  const taken: typeof free = [];
  for (;;) {
    const leaving = new Set(free.map(({ place }) => place.page));
    const isFree = ({ place }: (typeof free)[number]) => !place.occupant || leaving.has(place.occupant.id);
    const blocked = free.filter((own) => !isFree(own));
    if (blocked.length === 0) return { free: free.map(({ row }) => row), taken };
    taken.push(...blocked);
    free = free.filter(isFree);
  }
}
