import { type Kind } from "../../core/design/kinds";

/** What a thread is at: a line of a kind's design, or the condition of a rule. */
export interface Doing {
  readonly kind: Kind;
  /** Which text's line; `null` for a condition. */
  readonly text: string | null;
  /** The rule's name; `null` for the base's line. */
  readonly rule: string | null;
  /** `line`: its source; `condition`: the condition as JSON. */
  readonly what: "line" | "condition";
  readonly source: string;
}

const BYTES = 256 * 1024;
/** The length of the list, and the number of the one that is being worked on, -1 for none. */
const LENGTH = 0;
const AT = 1;

/**
 * Memory shared with a worker thread in which it notes what it is at, so that it can be told after the thread died:
 * a list of lines once a proof, and the number of the present one as it goes on.
 */
export class Activity {
  private readonly head: Int32Array;
  private readonly bytes: Uint8Array;

  constructor(readonly memory: SharedArrayBuffer = new SharedArrayBuffer(8 + BYTES)) {
    this.head = new Int32Array(memory, 0, 2);
    this.bytes = new Uint8Array(memory, 8);
  }

  /** Notes what will be worked on, nothing of it yet. A list with no room is not noted. */
  begin(list: readonly Doing[]): void {
    Atomics.store(this.head, AT, -1);
    const { read, written } = new TextEncoder().encodeInto(JSON.stringify(list), this.bytes);
    Atomics.store(this.head, LENGTH, read < JSON.stringify(list).length ? 0 : written);
  }

  /** Notes which of them is being worked on now; -1 for none. */
  at(place: number): void {
    this.head[AT] = place;
  }

  /** What was being worked on, `null` for nothing that was noted. */
  read(): Doing | null {
    const at = Atomics.load(this.head, AT);
    const length = Atomics.load(this.head, LENGTH);
    if (at < 0 || length === 0) return null;
    const list = JSON.parse(new TextDecoder().decode(this.bytes.slice(0, length))) as Doing[];
    return list[at] ?? null;
  }

  clear(): void {
    Atomics.store(this.head, AT, -1);
    Atomics.store(this.head, LENGTH, 0);
  }
}

/** What a line or condition is told by, whatever kind and rule it stands in. */
export function fingerprintOf({ what, source }: Pick<Doing, "what" | "source">): string {
  return `${what} ${source}`;
}
