import { pathParts } from "../../core/addresses/path-form";

/** The number of the page at each address, in normal form. */
export type PagesByAddress = ReadonlyMap<string, number>;

/** The page at an address in normal form; a query that no page has is asked of the page without it. */
export function pageAt(pages: PagesByAddress, address: string): number | undefined {
  const { path, query } = pathParts(address);
  return pages.get(path + query) ?? pages.get(path);
}

/** The page at the same path but for the slash at its end, and its address: servers lead there by themselves. */
export function withOtherEnding(
  pages: PagesByAddress,
  address: string,
): { readonly page: number; readonly path: string } | null {
  const { path, query } = pathParts(address);
  const other = path.endsWith("/") ? path.slice(0, -1) : `${path}/`;
  const page = pages.get(other);
  return page === undefined ? null : { page, path: other + query };
}
