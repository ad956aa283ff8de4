/**
 * Does one thing after another, in the order in which they were asked for. Of two requests on their way at once the later one may arrive, or be
 * answered, first.
 */
export class InTurn {
  private last: Promise<unknown> = Promise.resolve();
  private open = 0;

  /** Whether nothing is under way or waits. */
  get isIdle(): boolean {
    return this.open === 0;
  }

  /** Does something once all before it has ended, well or not. */
  async do<T>(work: () => Promise<T>): Promise<T> {
    const before = this.last;
    let end = () => {};
    this.last = new Promise<void>((resolve) => (end = resolve));
    this.open++;
    await before;
    try {
      return await work();
    } finally {
      this.open--;
      end();
    }
  }
}
