import { type AddressColumns, type AddressNumbers, splitEnding } from "./address-parts";
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

/** What becomes of the addresses of pages, in how many of them; of pages without one nothing. Folders are looked at once for each two that occur. */
export function countChanges(
  pages: readonly number[],
  before: AddressColumns,
  after: AddressColumns,
  { folders, ends }: AddressNumbers,
): ReadonlyMap<AddressChange, number> {
  const counts = new Map<AddressChange, number>();
  const known = new Map<number, readonly AddressChange[]>();
  const count = (change: AddressChange) => counts.set(change, (counts.get(change) ?? 0) + 1);
  for (const page of pages) {
    const [from, to] = [before.folder[page]!, after.folder[page]!];
    if (from < 0) continue;
    if (from !== to) {
      const key = from * folders.size + to;
      let changes = known.get(key);
      if (!changes) known.set(key, (changes = folderChange(folders.text(from), folders.text(to))));
      changes.forEach(count);
    }
    if (before.name[page] !== after.name[page]) count("slug");
    if (before.end[page] === after.end[page]) continue;
    if (withoutQuery(ends.text(before.end[page]!)) !== withoutQuery(ends.text(after.end[page]!))) count("ending");
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

function lastChange(from: string, to: string): readonly AddressChange[] {
  const [[nameBefore, before], [nameAfter, after]] = [from, to].map((address) => splitEnding(lastSegment(address))) as [
    [string, string],
    [string, string],
  ];
  const changes: AddressChange[] = [];
  if (nameBefore !== nameAfter) changes.push("slug");
  if (before !== after || endsInSlash(from) !== endsInSlash(to)) changes.push("ending");
  return changes;
}

function withoutQuery(end: string): string {
  return splitQuery(end)[0];
}

function endsInSlash(address: string): boolean {
  return withoutQuery(address).endsWith("/");
}
