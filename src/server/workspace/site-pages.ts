import { type Kind } from "../../core/design/kinds";
import { KnownAddresses } from "../../core/addresses/address-parts";
import { likelyFolders } from "../../core/addresses/address-plan";
import { type KindData } from "./kind-data";

/** Every page of a site by a number, a kind behind the other. */
export interface SitePages {
  readonly paths: readonly string[];
  /** The paths taken apart, and where pages without an address would go; put in order when a plan first asks. */
  readonly known: KnownAddresses;
  readonly ids: Int32Array;
  /** The number of a kind's first page. */
  readonly startOf: ReadonlyMap<Kind, number>;
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
  let known: KnownAddresses | null = null;
  return {
    paths,
    get known() {
      return (known ??= new KnownAddresses(paths, likelyFolders(paths, groups, without)));
    },
    ids: Int32Array.from(ids),
    startOf,
  };
}
