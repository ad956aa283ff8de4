/** A page’s address before and after, `""` for none. */
export interface PathPair {
  readonly from: string;
  readonly to: string;
}

/** A folder within another one, or the pages that stand in that one itself, with how many pages are in it, those below it too. */
export interface FolderNode {
  /** With a slash at its end; the folder that was asked for, for pages that stand in itself. */
  readonly folder: string;
  readonly before: number;
  readonly after: number;
}

/** So many pages go from a folder to another, or stay in one. `""`: outside of what was asked for. */
export interface FolderFlow {
  readonly from: string;
  readonly to: string;
  readonly pages: number;
  /** How many of them get another address. */
  readonly moving: number;
}

export interface FolderFlows {
  /** Those with the most moving pages first, then by their names. */
  readonly nodes: readonly FolderNode[];
  /** How many folders more there are. */
  readonly more: number;
  readonly flows: readonly FolderFlow[];
}

/** All pages that are in none of the folders shown. */
export const ELSEWHERE = "";

/**
 * How pages go between the folders that lie directly in one: what each holds before and after.
 *
 * @param within with a slash at its end; `/` for the whole site.
 * @param most so many folders are told apart; the rest counts as elsewhere.
 */
export function folderFlows(pairs: Iterable<PathPair>, within: string, most: number): FolderFlows {
  const flows = new Map<string, { from: string; to: string; pages: number; moving: number }>();
  for (const { from, to } of pairs) {
    const [before, after] = [childOf(from, within), childOf(to, within)];
    if (before === ELSEWHERE && after === ELSEWHERE) continue;
    const key = `${before}\n${after}`;
    let flow = flows.get(key);
    if (!flow) flows.set(key, (flow = { from: before, to: after, pages: 0, moving: 0 }));
    flow.pages++;
    if (from !== to) flow.moving++;
  }
  return limited([...flows.values()], most);
}

/** The folder directly within another one that an address lies in; that one itself for what stands in it. */
function childOf(address: string, within: string): string {
  const path = address.replace(/\?.*$/, "");
  if (!path.startsWith(within)) return ELSEWHERE;
  const slash = path.indexOf("/", within.length);
  return slash < 0 || slash === path.length - 1 ? within : path.slice(0, slash + 1);
}

function limited(flows: readonly FolderFlow[], most: number): FolderFlows {
  const nodes = new Map<string, { folder: string; before: number; after: number; moving: number }>();
  const node = (folder: string) => {
    let own = nodes.get(folder);
    if (!own) nodes.set(folder, (own = { folder, before: 0, after: 0, moving: 0 }));
    return own;
  };
  for (const { from, to, pages, moving } of flows) {
    node(from).before += pages;
    node(to).after += pages;
    node(from).moving += moving;
    if (to !== from) node(to).moving += moving;
  }
  const inside = [...nodes.values()].filter(({ folder }) => folder !== ELSEWHERE);
  const told = inside.sort((a, b) => b.moving - a.moving || b.before - a.before || (a.folder < b.folder ? -1 : 1));
  const shown = new Set(told.slice(0, most).map(({ folder }) => folder));
  const merged = new Map<string, FolderFlow>();
  for (const flow of flows) {
    const [from, to] = [flow.from, flow.to].map((folder) => (shown.has(folder) ? folder : ELSEWHERE)) as [
      string,
      string,
    ];
    if (from === ELSEWHERE && to === ELSEWHERE) continue;
    const known = merged.get(`${from}\n${to}`);
    const sum = { pages: flow.pages + (known?.pages ?? 0), moving: flow.moving + (known?.moving ?? 0) };
    merged.set(`${from}\n${to}`, { from, to, ...sum });
  }
  return {
    nodes: told.slice(0, most).map(({ folder, before, after }) => ({ folder, before, after })),
    more: Math.max(0, told.length - most),
    flows: [...merged.values()].sort((a, b) => b.pages - a.pages),
  };
}
