import type { Site } from "../../core/design/design";

/** Settings as they were typed, valid or not, and the stored ones that they went out from. */
export interface TypedSettings {
  readonly site: Site;
  readonly of: Site;
}

/**
 * What was typed, going on from what another window stored meanwhile: its changes are taken over where other values were changed here.
 * Where both changed the same value it stays as it was, going out from what was stored before: it cannot be saved over the other one.
 */
export function goingOnFrom(stored: Site, typed: TypedSettings): TypedSettings {
  if (same(typed.of, stored) || !areApart(typed.of, typed.site, stored)) return typed;
  return { site: changedOnto(stored, typed.of, typed.site) as Site, of: stored };
}

/** Whether two changes of a value are of different parts of it: records part by part, everything else whole. */
function areApart(of: unknown, one: unknown, other: unknown): boolean {
  if (same(one, of) || same(other, of) || same(one, other)) return true;
  if (!isRecord(one) || !isRecord(other)) return false;
  const before = isRecord(of) ? of : {};
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].every((name) =>
    areApart(before[name], one[name], other[name]),
  );
}

/** A value with what was changed of another one: records part by part, everything else whole. */
export function changedOnto(stored: unknown, from: unknown, to: unknown): unknown {
  if (same(from, to)) return stored;
  if (!isRecord(stored) || !isRecord(to)) return to;
  const before = isRecord(from) ? from : {};
  const names = [...new Set([...Object.keys(stored), ...Object.keys(to)])];
  return Object.fromEntries(
    names.flatMap((name) => {
      const value = changedOnto(stored[name], before[name], to[name]);
      return value === undefined ? [] : [[name, value]];
    }),
  );
}

export function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

export function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
