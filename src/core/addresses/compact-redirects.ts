import { type KnownPages } from "./fold-redirects";
import { pathParts } from "./path-form";
import { isElsewhere, type Redirect, type RedirectStatus } from "./redirect";
import { RedirectLookup } from "./redirect-lookup";

/** A folded set in as few rules as send every known path where the set sends it. */
export interface CompactRedirects {
  readonly redirects: readonly Redirect[];
  /** How many paths were looked up in the compact set: every old path of the full one, and every page. */
  readonly proven: number;
}

/**
 * The fewest rules, exact and prefix, that send every known old path to the same place with the same status as the full set, and no
 * page anywhere. A prefix redirect is only ever put over a folder in which no page is, nor anything that another leads to; those of
 * the set stay, since what they catch is not all known. Each known path is looked up in what came of it before it is given out.
 *
 * @param full folded: each leads in one hop.
 */
export function compactRedirects(full: readonly Redirect[], pages: KnownPages | null): CompactRedirects {
  const root = new FolderTree(full, pages ?? []).root;
  const rules: Redirect[] = [];
  write(root, NOTHING, rules);
  for (const redirect of full) if (redirect.from.includes("?")) rules.push(redirect);
  return proven(full, rules, pages);
}

/** Looks every known path up in both sets; a path that would be caught wrongly keeps its own rule. */
function proven(full: readonly Redirect[], rules: Redirect[], pages: KnownPages | null): CompactRedirects {
  const compact = new RedirectLookup(rules, pages);
  const own: Redirect[] = [];
  let count = 0;
  for (const redirect of full) {
    if (redirect.prefix) continue;
    count++;
    const hop = compact.hop(redirect.from);
    if (hop?.to !== redirect.to || hop.redirect.status !== redirect.status) own.push(redirect);
  }
  const redirects = [...rules, ...own].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  return { redirects, proven: count + pagesLeftAlone(redirects, full, pages) };
}

/** Makes sure that no page is caught that the full set left alone; says how many pages were looked at. */
function pagesLeftAlone(rules: readonly Redirect[], full: readonly Redirect[], pages: KnownPages | null): number {
  if (!pages) return 0;
  // Without the pages: a set that catches none holds wherever rules go before pages.
  const [before, after] = [new RedirectLookup(full), new RedirectLookup(rules)];
  let count = 0;
  for (const page of pages) {
    count++;
    if (after.hop(page) !== null && before.hop(page) === null)
      throw new Error(`A rule of the compact set would catch the page ${page}`);
  }
  return count;
}

/** Where a folder’s paths lead: the folder that they lead to, with its status; of all that is gone for good the same one. */
type Lead = string;

const NOTHING: Lead = "";

function leadOf(to: string, status: RedirectStatus): Lead {
  return `${status} ${to}`;
}

/** A lead one folder further down. */
function below(lead: Lead, name: string): Lead {
  return lead === NOTHING || lead.startsWith("410") ? lead : `${lead}${name}/`;
}

/** The lead of the folder above that comes to this one below it; `null` where there is none. */
function above(lead: Lead, name: string): Lead | null {
  if (lead.startsWith("410")) return lead;
  const end = `/${name}/`;
  // The host of an address elsewhere is no folder.
  return lead.endsWith(end) && !lead.endsWith(`:/${end}`) ? lead.slice(0, -name.length - 1) : null;
}

/** A folder of old paths with all that is decided of it. */
interface Folder {
  readonly path: string;
  readonly name: string;
  readonly folders: Map<string, Folder>;
  /** The exact redirects of paths right in it, and the leads with which a prefix redirect would send each the same way. */
  readonly leaves: { readonly redirect: Redirect; readonly lead: Lead | null }[];
  /** A prefix redirect of the full set. */
  fixed: Redirect | null;
  hasPage: boolean;
  /** How many rules it takes where no lead from above helps. */
  alone: number;
  /** How many it takes with a lead from above that helps. */
  readonly withLead: Map<Lead, number>;
  /** The lead with which it takes the fewest if it gets a rule of its own; `null` where none is worth it. */
  own: Lead | null;
}

class FolderTree {
  readonly root = folderAt("/", "");

  constructor(full: readonly Redirect[], pages: Iterable<string>) {
    for (const redirect of full) {
      if (redirect.from.includes("?")) continue;
      const folder = this.folder(redirect.from);
      if (redirect.prefix) folder.fixed = redirect;
      else folder.leaves.push({ redirect, lead: leadOfLeaf(redirect) });
    }
    // Where something leads to nothing may lead on, whether a page is known to be there or not.
    for (const { to } of full) if (to !== "" && !isElsewhere(to)) this.mark(pathParts(to).path);
    for (const page of pages) this.mark(pathParts(page).path);
    decide(this.root);
  }

  private folder(path: string): Folder {
    let at = this.root;
    for (let from = 1, to = path.indexOf("/", 1); to >= 0; from = to + 1, to = path.indexOf("/", from)) {
      const name = path.slice(from, to);
      let next = at.folders.get(name);
      if (!next) at.folders.set(name, (next = folderAt(path.slice(0, to + 1), name)));
      at = next;
    }
    return at;
  }

  /** Marks the folders that a page lies in, as far as there are old paths. */
  private mark(path: string): void {
    let at: Folder | undefined = this.root;
    at.hasPage = true;
    for (let from = 1, to = path.indexOf("/", 1); to >= 0; from = to + 1, to = path.indexOf("/", from)) {
      at = at.folders.get(path.slice(from, to));
      if (!at) return;
      at.hasPage = true;
    }
  }
}

function folderAt(path: string, name: string): Folder {
  return {
    path,
    name,
    folders: new Map(),
    leaves: [],
    fixed: null,
    hasPage: false,
    alone: 0,
    withLead: new Map(),
    own: null,
  };
}

/** The lead of its folder with which a path would be sent where its redirect sends it. */
function leadOfLeaf({ from, to, status }: Redirect): Lead | null {
  if (to === "") return leadOf("", status);
  const rest = from.slice(from.lastIndexOf("/") + 1);
  if (to.includes("?") || to.includes("#") || !to.endsWith(`/${rest}`)) return null;
  const folder = to.slice(0, to.length - rest.length);
  return isElsewhere(folder) && /^https?:\/\/$/.test(folder) ? null : leadOf(folder, status);
}

/** Decides a folder after all below it: how many rules it takes, and with which lead. */
function decide(root: Folder): void {
  const order: Folder[] = [root];
  for (let i = 0; i < order.length; i++) for (const inner of order[i]!.folders.values()) order.push(inner);
  for (const folder of order.reverse()) decideOne(folder);
}

function decideOne(folder: Folder): void {
  let alone = 0;
  const saved = new Map<Lead, number>();
  const save = (lead: Lead, rules: number) => saved.set(lead, (saved.get(lead) ?? 0) + rules);
  for (const { lead } of folder.leaves) {
    alone++;
    if (lead !== null) save(lead, 1);
  }
  for (const inner of folder.folders.values()) {
    const best = bestAlone(inner);
    alone += best;
    for (const [lead, rules] of inner.withLead) {
      const own = rules < best ? above(lead, inner.name) : null;
      if (own !== null) save(own, best - rules);
    }
  }
  folder.alone = alone;
  if (folder.fixed) {
    // Its rule stands whatever comes from above, and saves what it saves.
    folder.alone = alone - (saved.get(leadOf(folder.fixed.to, folder.fixed.status)) ?? 0);
    return;
  }
  if (folder.hasPage) return;
  let most = 1;
  for (const [lead, rules] of saved) {
    folder.withLead.set(lead, alone - rules);
    if (rules > most) [most, folder.own] = [rules, lead];
  }
}

/** How many rules a folder takes with nothing from above: all single, or with a rule of its own. */
function bestAlone({ alone, own, withLead }: Folder): number {
  return own === null ? alone : Math.min(alone, withLead.get(own)! + 1);
}

/** Writes the rules that were decided on. @param lead the one that holds from above. */
function write(root: Folder, lead: Lead, rules: Redirect[]): void {
  const open: [Folder, Lead][] = [[root, lead]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [folder, from] = next;
    const holds = leadThatHolds(folder, from, rules);
    for (const { redirect, lead: own } of folder.leaves) if (own === null || own !== holds) rules.push(redirect);
    for (const inner of folder.folders.values()) open.push([inner, below(holds, inner.name)]);
  }
}

function leadThatHolds(folder: Folder, from: Lead, rules: Redirect[]): Lead {
  if (folder.fixed) {
    rules.push(folder.fixed);
    return leadOf(folder.fixed.to, folder.fixed.status);
  }
  const inherited = folder.withLead.get(from) ?? folder.alone;
  if (folder.own === null || folder.own === from || folder.withLead.get(folder.own)! + 1 >= inherited) return from;
  const to = folder.own.slice(4);
  rules.push({ from: folder.path, to, status: Number(folder.own.slice(0, 3)) as RedirectStatus, prefix: true });
  return folder.own;
}
