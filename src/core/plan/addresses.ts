/** A path without a slash at its end. @example withoutSlash("/rope/") // "/rope" */
export function withoutSlash(path: string): string {
  return path.length > 1 && path.endsWith("/") ? path.slice(0, -1) : path;
}

/** The folder part of a path: all up to the last segment, with its slash. @example folderOf("/rope/twine") // "/rope/" */
export function folderOf(path: string): string {
  const trimmed = withoutSlash(path);
  return trimmed.slice(0, trimmed.lastIndexOf("/") + 1);
}

/**
 * Where pages go when slugs change: each page's last segment is its new slug, and every page below a page that moves
 * moves along. Pages below are found by their folders, once a folder.
 */
export class AddressBook {
  private readonly folders = new Map<string, string>();

  /** @param moved old path → new slug, for every page whose slug changes. Paths without a slash at their end. */
  constructor(private readonly moved: ReadonlyMap<string, string>) {}

  /** The page's new path; the path itself where nothing moves. A slash at the end is kept. */
  newPath(path: string): string {
    const slash = path.length > 1 && path.endsWith("/") ? "/" : "";
    return this.move(slash ? path.slice(0, -1) : path) + slash;
  }

  private move(path: string): string {
    const folder = folderOf(path);
    const slug = this.moved.get(path) ?? path.slice(folder.length);
    return this.newFolder(folder) + slug;
  }

  /** Where a folder, with a slash at its end, is then. */
  newFolder(folder: string): string {
    if (folder === "/" || folder === "") return folder;
    let moved = this.folders.get(folder);
    if (moved === undefined) this.folders.set(folder, (moved = `${this.move(folder.slice(0, -1))}/`));
    return moved;
  }
}
