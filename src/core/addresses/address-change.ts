import { folderOf, lastSegment, splitQuery } from "./addresses";

/** What becomes of an address, as far as its segments tell. */
export type AddressChange = "slug" | "folder-added" | "folder-dropped" | "folder-renamed" | "ending";

/**
 * What differs between two addresses of a page.
 *
 * @example addressChange("/c/rope/twine/waxed", "/shop/waxed") // ["folder-added", "folder-dropped"]
 */
export function addressChange(from: string, to: string): AddressChange[] {
  return [...folderChange(folderOf(from), folderOf(to)), ...lastChange(from, to)];
}

/** What becomes of addresses, in how many of them. Folders are looked at once for each two that occur. */
export function countChanges(
  moves: Iterable<{ readonly from: string; readonly to: string }>,
): ReadonlyMap<AddressChange, number> {
  const counts = new Map<AddressChange, number>();
  const known = new Map<string, readonly AddressChange[]>();
  for (const { from, to } of moves) {
    const [before, after] = [folderOf(from), folderOf(to)];
    const key = `${before}\n${after}`;
    let changes = known.get(key);
    if (!changes) known.set(key, (changes = folderChange(before, after)));
    for (const change of changes) counts.set(change, (counts.get(change) ?? 0) + 1);
    for (const change of lastChange(from, to)) counts.set(change, (counts.get(change) ?? 0) + 1);
  }
  return counts;
}

function folderChange(from: string, to: string): AddressChange[] {
  if (from === to) return [];
  const [before, after] = [from, to].map((folder) => folder.split("/").filter(Boolean)) as [string[], string[]];
  if (before.length === after.length) return ["folder-renamed"];
  return [
    ...(after.some((folder) => !before.includes(folder)) ? (["folder-added"] as const) : []),
    ...(before.some((folder) => !after.includes(folder)) ? (["folder-dropped"] as const) : []),
  ];
}

const NOTHING: readonly AddressChange[] = [];

function lastChange(from: string, to: string): readonly AddressChange[] {
  const [before, after] = [lastSegment(from), lastSegment(to)];
  const isSlashSame = endsInSlash(from) === endsInSlash(to);
  if (before === after && isSlashSame) return NOTHING;
  const [dotBefore, dotAfter] = [dotOf(before), dotOf(after)];
  const changes: AddressChange[] = [];
  if (before.slice(0, dotBefore) !== after.slice(0, dotAfter)) changes.push("slug");
  if (before.slice(dotBefore) !== after.slice(dotAfter) || !isSlashSame) changes.push("ending");
  return changes;
}

function endsInSlash(address: string): boolean {
  return splitQuery(address)[0].endsWith("/");
}

/** Where the ending of a segment begins, such as `.html`. */
function dotOf(segment: string): number {
  const dot = segment.lastIndexOf(".");
  return dot > 0 ? dot : segment.length;
}
