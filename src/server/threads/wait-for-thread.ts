/** What is waited for: something that another thread does in memory that both share. */
export interface Awaited {
  /** Whether it is still to come. */
  readonly isOpen: () => boolean;
  /** How far the other thread is: it is alive as long as this goes up. */
  readonly beats: () => number;
  /** Waits until it is there, or so many ms. */
  readonly wait: (ms: number) => void;
  /** Called again and again while it is waited for; what it throws ends the wait. */
  readonly looked: () => void;
}

/** How often who waits looks whether the thread goes on, in ms. */
const LOOK = 100;
/** A thread that said nothing for so long is taken for dead, in ms. */
export const SILENT = 8000;

/**
 * Waits for another thread without giving up one's turn. While one waits nothing is heard of a thread that died: its silence tells it.
 *
 * @param silent after how many ms without a sign the thread is taken for dead.
 * @returns whether what was waited for came; `false` where the thread is taken for dead.
 */
export function waitForThread({ isOpen, beats, wait, looked }: Awaited, silent: number): boolean {
  let last = -1;
  let heard = performance.now();
  while (isOpen()) {
    looked();
    wait(LOOK);
    const now = beats();
    if (now !== last) {
      last = now;
      heard = performance.now();
    } else if (performance.now() - heard > silent) return false;
  }
  return true;
}
