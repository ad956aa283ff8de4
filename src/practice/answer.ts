/** What the practice site answers. */
export interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string;
  /** How it gets there, where that is not how it should be. */
  readonly delivery?: Delivery;
}

/** How an answer is sent. */
export interface Delivery {
  /** Waits so many ms before. */
  readonly afterMs?: number;
  /** Never sent. */
  readonly hangs?: boolean;
  /** The connection ends when half of it is sent. */
  readonly isDropped?: boolean;
  /** Sent as these bytes, which are compressed already, and not as `body`. */
  readonly gzipped?: Buffer;
}

export function htmlAnswer(body: string, status = 200, headers: Readonly<Record<string, string>> = {}): Answer {
  return { status, headers: { "content-type": "text/html; charset=utf-8", ...headers }, body };
}

export function textAnswer(body: string, type = "text/plain"): Answer {
  return { status: 200, headers: { "content-type": `${type}; charset=utf-8` }, body };
}

/** Sends a visitor on; to a target without one there is nothing any more. */
export function redirectAnswer(status: number, target: string): Answer {
  return { status, headers: { location: target, "content-type": "text/plain; charset=utf-8" }, body: `${target}\n` };
}
