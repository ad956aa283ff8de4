import { folderOf, withoutSlash } from "../../core/addresses/addresses";
import { type Db } from "../../store/open";
import { countRun } from "../../store/runs";

/** A move that still waits in a run. */
interface WaitingMove {
  readonly change: number;
  readonly item: number;
  readonly from: string | null;
  readonly to: string | null;
  /** The page’s revision when the run that is done, or undone, was written down. */
  readonly revision: number;
  /** Why it cannot be made, as far as its page alone tells. */
  readonly reason: string | null;
}

/** How the moves of a run can be made. */
export interface SettledMoves {
  /** Pages that have to move in one transaction: each is where another of them goes. */
  readonly together: readonly (readonly number[])[];
}

/**
 * Looks at every move that waits in a run before any is made: what cannot move is skipped, and with it all below it and whatever
 * would go to its address, so that neither half of a branch nor two pages at one address come about.
 */
export function settleMoves(db: Db, run: number): SettledMoves {
  return db
    .transaction((): SettledMoves => {
      const moves = waitingMoves(db, run);
      if (moves.length === 0) return { together: [] };
      const pagesAt = pathIndex(db);
      const skipped = skippedMoves(moves, pagesAt, wasBeside(db, run));
      const skip = db.prepare("UPDATE run_changes SET status = 'skipped', reason = ? WHERE id = ?");
      for (const { change, item } of moves) if (skipped.has(item)) skip.run(skipped.get(item), change);
      const links = skipFollowing(db, run, skipped);
      countRun(db, run, { applied: 0, skipped: skipped.size + links, redirects: 0 });
      return { together: chains(moves, skipped, pagesAt) };
    })
    .immediate();
}

/** Skips links that were to follow pages which do not move; says how many. */
export function skipFollowing(db: Db, run: number, skipped: ReadonlyMap<number, string>): number {
  const skip = db.prepare(
    "UPDATE run_changes SET status = 'skipped', reason = ? WHERE run_id = ? AND follows = ? AND status = 'waiting'",
  );
  let links = 0;
  for (const [item, reason] of skipped)
    links += skip.run(`The page that it was to follow did not move: ${reason}`, run, item).changes;
  return links;
}

function waitingMoves(db: Db, run: number): WaitingMove[] {
  const rows = db
    .prepare(
      `SELECT change.id, change.item_id, change.path_before, change.path_after, change.text, change.before, change.revision,
         items.id IS NULL, items.path, items.slug
       FROM run_changes AS change LEFT JOIN items ON items.id = change.item_id
       WHERE change.run_id = ? AND change.status = 'waiting' AND coalesce(change.path_before, change.path_after) IS NOT NULL
       ORDER BY change.id`,
    )
    .raw()
    .all(run) as [
    number,
    number,
    string | null,
    string | null,
    string,
    string,
    number,
    number,
    string | null,
    string,
  ][];
  return rows.map(([change, item, from, to, text, before, revision, isGone, path, slug]) => ({
    ...{ change, item, from, to, revision },
    reason: reasonOfPage(isGone === 1, { path, slug }, { from, text, before }),
  }));
}

function reasonOfPage(
  isGone: boolean,
  now: { path: string | null; slug: string },
  then: { from: string | null; text: string; before: string },
): string | null {
  if (isGone) return "The page is no longer there";
  if (then.text === "slug" && now.slug !== then.before)
    return `The slug was changed meanwhile; it now reads “${now.slug.slice(0, 80)}”`;
  if (now.path !== then.from)
    return now.path === null
      ? "The page has no address any more"
      : `The page moved meanwhile; it is now at ${now.path}`;
  return null;
}

/** Which pages stand at each path; a slash at its end aside. */
function pathIndex(db: Db): ReadonlyMap<string, readonly number[]> {
  const index = new Map<string, number[]>();
  const rows = db.prepare("SELECT id, path FROM items WHERE path IS NOT NULL").raw().iterate() as IterableIterator<
    [number, string]
  >;
  for (const [id, path] of rows) {
    const at = index.get(withoutSlash(path));
    if (at) at.push(id);
    else index.set(withoutSlash(path), [id]);
  }
  return index;
}

/** Whether a page stood where a move goes, a slash at the end aside, when what is undone was done: the move only brings that back. */
type WasBeside = (other: number, move: WaitingMove) => boolean;

function wasBeside(db: Db, run: number): WasBeside {
  const undone = db.prepare("SELECT of_run FROM runs WHERE id = ?").pluck().get(run) as number | null;
  if (undone === null) return () => false;
  // It has another spelling of the address, was not imported since, and no run moved it.
  const stood = db
    .prepare(
      `SELECT 1 FROM items WHERE id = @other AND path <> @to AND content_revision <= @revision AND NOT EXISTS (
         SELECT 1 FROM run_changes WHERE item_id = @other AND run_id >= @undone AND status = 'applied' AND path_after IS NOT NULL)`,
    )
    .pluck();
  return (other, { to, revision }) => stood.get({ other, to, revision, undone }) !== undefined;
}

/** The pages that cannot move, and why. Each one that stays may keep others from moving. */
function skippedMoves(
  moves: readonly WaitingMove[],
  pagesAt: ReadonlyMap<string, readonly number[]>,
  stoodBeside: WasBeside,
): Map<number, string> {
  const skipped = new Map<number, string>();
  const movers = new Set(moves.map(({ item }) => item));
  for (const { item, reason } of moves) if (reason !== null) skipped.set(item, reason);
  for (;;) {
    const before = skipped.size;
    const stuck = new Set(
      moves.flatMap(({ item, from }) => (from !== null && skipped.has(item) ? [withoutSlash(from)] : [])),
    );
    for (const move of moves) {
      const { item, from, to } = move;
      if (skipped.has(item)) continue;
      const above = from === null || stuck.size === 0 ? undefined : foldersOf(from).find((path) => stuck.has(path));
      if (above !== undefined) skipped.set(item, `The page above it, at ${above}, did not move`);
      else if (to !== null) {
        const others = pagesAt.get(withoutSlash(to)) ?? [];
        const stays = others.some(
          (other) => other !== item && (!movers.has(other) || skipped.has(other)) && !stoodBeside(other, move),
        );
        if (stays) skipped.set(item, `Another page is at ${to} meanwhile`);
      }
    }
    if (skipped.size === before) return skipped;
  }
}

/** The paths of the folders that a path lies in. @example foldersOf("/a/b/c") // ["/a/b", "/a"] */
function foldersOf(path: string): string[] {
  const folders: string[] = [];
  for (let folder = folderOf(path); folder.length > 1; folder = folderOf(folder)) folders.push(withoutSlash(folder));
  return folders;
}

/** Pages of which each goes where another of them is, put together. */
function chains(
  moves: readonly WaitingMove[],
  skipped: ReadonlyMap<number, string>,
  pagesAt: ReadonlyMap<string, readonly number[]>,
): number[][] {
  const chainOf = new Map<number, number[]>();
  for (const { item, to } of moves) {
    if (skipped.has(item) || to === null) continue;
    for (const other of pagesAt.get(withoutSlash(to)) ?? []) {
      if (other === item) continue;
      const [one, two] = [chainOf.get(item) ?? [item], chainOf.get(other) ?? [other]];
      if (one === two) continue;
      const joined = [...one, ...two];
      for (const member of joined) chainOf.set(member, joined);
    }
  }
  return [...new Set(chainOf.values())];
}
