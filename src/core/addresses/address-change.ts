import { splitQuery } from "./addresses";

/** What becomes of an address, as far as its segments tell. */
export const ADDRESS_CHANGES = ["slug", "folder-added", "folder-dropped", "folder-renamed", "ending"] as const;
export type AddressChange = (typeof ADDRESS_CHANGES)[number];

interface Taken {
  readonly folders: readonly string[];
  readonly slug: string;
  readonly ending: string;
}

function taken(address: string): Taken {
  const [path] = splitQuery(address);
  const segments = path.split("/").filter(Boolean);
  const last = segments.pop() ?? "";
  const dot = last.lastIndexOf(".");
  const ending = (dot > 0 ? last.slice(dot) : "") + (path.endsWith("/") ? "/" : "");
  return { folders: segments, slug: dot > 0 ? last.slice(0, dot) : last, ending };
}

/**
 * What differs between two addresses of a page.
 *
 * @example addressChange("/c/rope/twine/waxed", "/shop/waxed") // ["folder-added", "folder-dropped"]
 */
export function addressChange(from: string, to: string): AddressChange[] {
  const [before, after] = [taken(from), taken(to)];
  const changes: AddressChange[] = [];
  if (before.folders.length === after.folders.length) {
    if (before.folders.some((folder, i) => folder !== after.folders[i])) changes.push("folder-renamed");
  } else {
    if (after.folders.some((folder) => !before.folders.includes(folder))) changes.push("folder-added");
    if (before.folders.some((folder) => !after.folders.includes(folder))) changes.push("folder-dropped");
  }
  if (before.slug !== after.slug) changes.push("slug");
  if (before.ending !== after.ending) changes.push("ending");
  return changes;
}
