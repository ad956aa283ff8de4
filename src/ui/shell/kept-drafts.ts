import type { DraftKeeper, KeptDraft } from "./draft-saver";

const PREFIX = "nine-lines draft";
const lockName = (client: string) => `nine-lines window ${client}`;
const nameOf = (kind: string, client: string) => `${PREFIX} ${kind} ${client}`;

/** Keeps a window's draft of a kind in the browser; windows do not write over one another. */
export function draftKeeper(kind: string, client: string, storage: Storage): DraftKeeper {
  const name = nameOf(kind, client);
  return {
    put(kept) {
      try {
        storage.setItem(name, JSON.stringify({ ...kept, at: Date.now() }));
      } catch {
        // Without room in the browser's store the draft is only on its way to the server.
      }
    },
    forget: () => storage.removeItem(name),
  };
}

/** Where the page is made on the server, or the browser has no store: nothing is kept. */
export const KEPT_NOWHERE: DraftKeeper = { put: () => {}, forget: () => {} };

/** Lets other windows know that this one is open, as long as it is. */
export function holdWindow(client: string): void {
  void navigator.locks?.request(lockName(client), () => new Promise(() => {}));
}

/** A window that is closed just now may still be there for a while, in ms; on a machine that is busy for seconds. */
const CLOSING = 30_000;

/**
 * What a window that is gone had not stored of a kind's draft, the newest of it; taken out of the browser's store.
 *
 * @param isWanted asked when it is found: where it is not, it stays for the next window.
 */
export async function orphanedDraft(
  kind: string,
  client: string,
  storage: Storage,
  isWanted: (kept: KeptDraft) => boolean,
): Promise<KeptDraft | null> {
  const others = Array.from({ length: storage.length }, (_, i) => storage.key(i)!).filter(
    (name) => name.startsWith(`${PREFIX} ${kind}`) && name !== nameOf(kind, client),
  );
  if (others.length === 0) return null;
  const windowOf = (name: string) => lockName(name.slice(`${PREFIX} ${kind} `.length));
  let open = await openWindows();
  if (others.every((name) => open.has(windowOf(name)))) {
    await Promise.all(others.map((name) => closed(windowOf(name))));
    open = await openWindows();
  }
  const names = others.filter((name) => !open.has(windowOf(name)));
  if (names.length === 0) return null;
  // What checks a draft is large, and seldom needed.
  const { readKept } = await import("./read-kept");
  const found = names.flatMap((name) => {
    const kept = readKept(storage.getItem(name));
    return kept ? [{ name, kept }] : [];
  });
  const newest = found.sort((a, b) => b.kept.at - a.kept.at)[0];
  if (!newest || !isWanted(newest.kept)) return null;
  storage.removeItem(newest.name);
  return newest.kept;
}

async function openWindows(): Promise<ReadonlySet<string | undefined>> {
  return new Set(((await navigator.locks?.query())?.held ?? []).map(({ name }) => name));
}

/** Waits until a window is gone, if that is soon. */
async function closed(lock: string): Promise<void> {
  await navigator.locks.request(lock, { signal: AbortSignal.timeout(CLOSING) }, () => {}).catch(() => {});
}
