import { browserStorage } from "../shell/site-storage";

const NAME = "nine-lines connection";

/** A description that was typed and not saved, and the saved one that it is to take the place of, `null` where there was none. */
export interface KeptDescription {
  readonly typed: string;
  readonly seen: string | null;
}

/** What this browser kept of the site, `null` where that is nothing. */
export function readKeptDescription(): KeptDescription | null {
  try {
    const { typed, seen } = JSON.parse(browserStorage()?.getItem(NAME) ?? "null") as Record<string, unknown>;
    return typeof typed === "string" && (typeof seen === "string" || seen === null) ? { typed, seen } : null;
  } catch {
    return null;
  }
}

/** Keeps what is typed until it is saved; nothing where it is what is saved. */
export function keepDescription({ typed, seen }: KeptDescription): void {
  const storage = browserStorage();
  if (typed === (seen ?? "")) storage?.removeItem(NAME);
  else storage?.setItem(NAME, JSON.stringify({ typed, seen }));
}
