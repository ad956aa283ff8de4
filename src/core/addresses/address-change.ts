import { type AddressColumns, type AddressNumbers } from "./address-parts";
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
  { folders, names, ends }: AddressNumbers,
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
    const isSameName = before.name[page] === after.name[page];
    if (isSameName && before.end[page] === after.end[page]) continue;
    const isSlashSame = ends.text(before.end[page]!).startsWith("/") === ends.text(after.end[page]!).startsWith("/");
    if (isSameName) {
      if (!isSlashSame) count("ending");
    } else nameChange(names.text(before.name[page]!), names.text(after.name[page]!), isSlashSame).forEach(count);
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
  const [before, after] = [lastSegment(from), lastSegment(to)];
  const isSlashSame = endsInSlash(from) === endsInSlash(to);
  return before === after && isSlashSame ? [] : nameChange(before, after, isSlashSame);
}

function nameChange(before: string, after: string, isSlashSame: boolean): readonly AddressChange[] {
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
