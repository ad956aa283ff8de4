import { type Kind } from "../../core/design/kinds";
import { likelyFolders } from "../../core/addresses/address-plan";
import { type KindData } from "./kind-data";

/** Every page of a site by a number, a kind behind the other. */
export interface SitePages {
  readonly paths: readonly string[];
  readonly ids: Int32Array;
  /** The number of a kind's first page. */
  readonly startOf: ReadonlyMap<Kind, number>;
  /** Where pages without an address would go. */
  readonly folders: ReadonlyMap<number, string>;
}

export function sitePages(kinds: readonly KindData[]): SitePages {
  const paths: string[] = [];
  const groups: string[] = [];
  const ids: number[] = [];
  const startOf = new Map<Kind, number>();
  for (const data of kinds) {
    startOf.set(data.kind, paths.length);
    const { codes } = data.items.column("category");
    data.paths.forEach((path, row) => {
      paths.push(path);
      ids.push(data.ids[row]!);
      groups.push(`${data.kind} ${codes[row]}`);
    });
  }
  const without = paths.flatMap((path, page) => (path === "" ? [page] : []));
  return { paths, ids: Int32Array.from(ids), startOf, folders: likelyFolders(paths, groups, without) };
}
