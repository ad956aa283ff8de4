/** So long may a server say nothing, in ms. One that is at work says so every few seconds (`server/api/answer`), and one that opens a large site first takes its time. */
const MOST = 60_000;

/**
 * Watches a request for the server's silence: one that neither answers nor ends the connection is ended here, so that nothing waits for it without
 * a limit.
 */
export class Silence {
  private readonly ending = new AbortController();
  private timer = this.begin();

  /** Whether the request was ended since nothing was heard. */
  get isTooLong(): boolean {
    return this.ending.signal.aborted;
  }

  /** What ends the request: silence, or whoever asked. */
  signal(own: AbortSignal | undefined): AbortSignal {
    return own ? AbortSignal.any([own, this.ending.signal]) : this.ending.signal;
  }

  /** Something was heard. */
  heard(): void {
    clearTimeout(this.timer);
    this.timer = this.begin();
  }

  /** Nothing is waited for any more. */
  end(): void {
    clearTimeout(this.timer);
  }

  private begin(): ReturnType<typeof setTimeout> {
    return setTimeout(() => this.ending.abort(), MOST);
  }
}
