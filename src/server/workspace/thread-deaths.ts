import { type Db } from "../../store/open";
import { killers, noteDeath } from "../../store/worker-deaths";
import { log } from "../log";
import { type WorkerDeath } from "../threads/worker-client";
import { type Activity, type Doing, fingerprintOf } from "./activity";

/** What of a site ended its threads, so that it is not tried again and again. */
export class ThreadDeaths {
  constructor(
    private readonly db: Db,
    private readonly now: () => string,
  ) {}

  /**
   * Notes a death: it is put down to the line or condition that the thread was at, or else to the whole call.
   *
   * @returns what it was at, in words; `null` for nothing.
   */
  note(thread: string, death: WorkerDeath, activity: Activity | null): string | null {
    const doing = activity?.read() ?? null;
    activity?.clear();
    const at = doing ? wordsOf(doing) : death.method === null ? null : `“${death.method}”`;
    const fingerprint = doing ? fingerprintOf(doing) : death.fingerprint;
    const deaths = fingerprint === null ? 0 : noteDeath(this.db, fingerprint, at ?? "", this.now());
    // What it was at goes to the log without the texts of pages: lines and conditions are the designer's.
    log.error({
      event: "thread-died",
      thread,
      call: death.method,
      at,
      waiting: death.waiting,
      deaths,
      error: death.error,
    });
    return at;
  }

  /** Why lines and conditions are not tried again, by their fingerprints. */
  refusedLines(): Map<string, string> {
    const words = (what: string, deaths: number) =>
      `This ended the thread that looks at the pages ${deaths} times (${what}). It will not run again until it is changed`;
    return new Map(killers(this.db).map(({ fingerprint, what, deaths }) => [fingerprint, words(what, deaths)]));
  }

  /** Why a call is not made, `null` where it is. */
  refusal(fingerprint: string): string | null {
    const killer = killers(this.db).find((own) => own.fingerprint === fingerprint);
    return killer
      ? `This request was made ${killer.deaths} times and ended the thread that looks at the pages each time. It will not be tried again; change the request.`
      : null;
  }
}

/** @example "the title line of the rule “Ropes” for products" */
function wordsOf({ kind, text, rule, what }: Doing): string {
  if (what === "condition") return `the condition of a rule for the kind “${kind}”`;
  return `the ${text} line of ${rule === null ? "everything else" : `the rule “${rule}”`} for the kind “${kind}”`;
}
