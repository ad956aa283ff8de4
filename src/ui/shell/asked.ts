import type { CallInput, CallName } from "../../server/api/contract";

/** Something that a screen asks for, and the key that its answer is kept by. */
export interface Asked<N extends CallName> {
  readonly name: N;
  readonly input: CallInput<N>;
  readonly key: readonly unknown[];
}

/** A call that gives a stretch of a list. */
export type ListName = {
  [N in CallName]: CallInput<N> extends { from: number; count: number } ? N : never;
}[CallName];

/** Rows of a list are fetched so many at a time. */
export const LIST_WINDOW = 100;

/** What list of a call it is: all that is asked with but the stretch. */
export type ListInput<N extends ListName> = Omit<CallInput<N>, "from" | "count">;

/** @param stamp what the answer rests on besides. */
export function asked<N extends CallName>(name: N, input: CallInput<N>, stamp: string): Asked<N> {
  return { name, input, key: [name, input, stamp] };
}

/** A stretch of a list. @param tries how often it was asked for again. */
export function askedWindow<N extends ListName>(
  name: N,
  list: ListInput<N>,
  stamp: string,
  { size, page = 0, tries = 0 }: { readonly size: number; readonly page?: number; readonly tries?: number },
): Asked<N> {
  const input = { ...list, from: page * size, count: size } as CallInput<N>;
  return { name, input, key: [...windowsKey(name, list, stamp, tries), page] };
}

/** The key that all stretches of a list begin with. */
export function windowsKey<N extends ListName>(
  name: N,
  list: ListInput<N> | null,
  stamp: string,
  tries: number,
): readonly unknown[] {
  return [name, list, stamp, tries];
}
