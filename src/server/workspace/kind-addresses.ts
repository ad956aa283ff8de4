import { type ShapedPages } from "../../core/addresses/address-targets";
import { parseShape } from "../../core/addresses/parse-shape";
import { AddressMaker, type ShapeContext } from "../../core/addresses/shape";
import { type Designs } from "../../core/design/designs";
import { type Kind, kindOf } from "../../core/design/kinds";
import { slugRulesOf } from "../../core/slugs/site-rules";
import { type KindData } from "./kind-data";
import { type Workspace } from "./workspace";

/** An address line that is not used, and why. */
export interface FaultyAddress {
  readonly kind: Kind;
  readonly message: string;
}

/** The pages of a site whose addresses lines put together, by the numbers that a plan tells them by. */
export interface SiteAddresses {
  readonly shaped: ShapedPages;
  /** Whether a kind has an address line that is used. */
  readonly isShaped: (kind: Kind) => boolean;
  readonly faults: readonly FaultyAddress[];
}

interface ShapedKind {
  readonly first: number;
  readonly size: number;
  readonly maker: AddressMaker;
  readonly behind: string | null;
}

/**
 * What the address lines of designs make of a site.
 *
 * @param startOf the number of each kind’s first page.
 */
export function siteAddresses(
  workspace: Workspace,
  kinds: readonly Kind[],
  designs: Designs,
  startOf: ReadonlyMap<Kind, number>,
): SiteAddresses {
  const makers = new Map<Kind, ShapedKind>();
  const faults: FaultyAddress[] = [];
  for (const kind of kinds) {
    const source = designs[kind]?.address?.trim();
    if (!source) continue;
    const data = workspace.data(kind);
    const shape = parseShape(source, data.items.known);
    const wrong = shape.line.errors[0];
    if (wrong) faults.push({ kind, message: wrong.message });
    else {
      const maker = new AddressMaker(shape, data.items, contextOf(workspace, kind, startOf));
      makers.set(kind, { first: startOf.get(kind)!, size: data.ids.length, maker, behind: maker.behind });
    }
  }
  const used = [...makers.values()];
  // Asked for every page at each keystroke.
  const kindOfPage = new Uint16Array(used.reduce((most, { first, size }) => Math.max(most, first + size), 0));
  used.forEach(({ first, size }, i) => kindOfPage.fill(i + 1, first, first + size));
  const ofPage = (page: number) => used[kindOfPage[page]! - 1]!;
  const shaped: ShapedPages = {
    end: workspace.site().slashEnd,
    has: (page) => kindOfPage[page]! > 0,
    folder: (page, slugOf) => {
      const { first, maker } = ofPage(page);
      return maker.folder(page - first, slugOf);
    },
    last: (page, slug, slugOf) => {
      const { first, maker } = ofPage(page);
      return maker.last(page - first, slug, slugOf);
    },
    behind: (page) => ofPage(page).behind,
  };
  return { shaped, isShaped: (kind) => makers.has(kind), faults };
}

function contextOf(workspace: Workspace, kind: Kind, startOf: ReadonlyMap<Kind, number>): ShapeContext {
  const site = workspace.site();
  const slugRules = slugRulesOf(site);
  const isTree = kindOf(site, kind)?.isTree ?? false;
  const treeKind = isTree ? kind : "category";
  const first = startOf.get(treeKind);
  const areFolders = isTree;
  if (first === undefined || !kindOf(site, treeKind)?.isTree) return { slugRules, folderPages: null, areFolders };
  const pages = pagesByPath(workspace.data(treeKind));
  const folderPages = (names: readonly string[]) =>
    names.map((_, depth) => {
      const row = pages.get(pathKey(names.slice(0, depth + 1)));
      return row === undefined ? null : first + row;
    });
  return { slugRules, folderPages, areFolders };
}

/** The rows of categories by the names from the top down to each. */
function pagesByPath({ items, ids }: KindData): ReadonlyMap<string, number> {
  const rows = new Map<string, number>();
  for (let row = 0; row < ids.length; row++) {
    const path = items.value("category.path", row) || items.value("name", row);
    const key = pathKey(path.split("›"));
    if (!rows.has(key)) rows.set(key, row);
  }
  return rows;
}

function pathKey(names: readonly string[]): string {
  return names.map((name) => name.trim().normalize("NFC").toLowerCase()).join("\n");
}
