import type { Site } from "../../core/design/design";
import { changedOnto, isRecord, same, type TypedSettings } from "./typed-settings";

const NAME = "nine-lines settings that are not saved";

/** Keeps what was typed in the browser until it is saved; `null` forgets it. */
export function keepSettings(storage: Storage | null, kept: TypedSettings | null): void {
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
    const kept = JSON.parse(storage?.getItem(NAME) ?? "null") as Partial<TypedSettings> | null;
    if (!isRecord(kept) || !isRecord(kept.site)) return null;
    const merged = changedOnto(stored, kept.of ?? stored, kept.site) as Site;
    return same(merged, stored) ? null : merged;
  } catch {
    return null;
  }
}
