import type { Site } from "../../core/design/design";

const NAME = "nine-lines settings that are not saved";

/** Settings as they were typed, and the stored ones that they went out from. What is typed may be wrong: it is kept as it is. */
export interface KeptSettings {
  readonly site: Site;
  readonly of: Site;
}

/** Keeps what was typed in the browser until it is saved; `null` forgets it. */
export function keepSettings(storage: Storage | null, kept: KeptSettings | null): void {
  try {
    if (kept) storage?.setItem(NAME, JSON.stringify(kept));
    else storage?.removeItem(NAME);
  } catch {
    // Without room in the browser's store what is typed lives as long as the window.
  }
}

/**
 * What was typed and not saved: the stored settings with every value that was changed then, valid or not, part by part. `null` where
 * nothing was.
 */
export function keptSettings(storage: Storage | null, stored: Site): Site | null {
  try {
    const kept = JSON.parse(storage?.getItem(NAME) ?? "null") as Partial<KeptSettings> | null;
    if (!isRecord(kept) || !isRecord(kept.site)) return null;
    const merged = changedOnto(stored, kept.of ?? stored, kept.site) as Site;
    return JSON.stringify(merged) === JSON.stringify(stored) ? null : merged;
  } catch {
    return null;
  }
}

/** A value with what was changed of another one: records part by part, everything else whole. */
function changedOnto(stored: unknown, from: unknown, to: unknown): unknown {
  if (JSON.stringify(from) === JSON.stringify(to)) return stored;
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

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
