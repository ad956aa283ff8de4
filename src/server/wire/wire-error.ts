import { Refusal } from "../../core/refusal";

/**
 * What came of asking a site that was no answer to go on with.
 *
 * `unreachable`: no connection, or it broke. `late`: no answer in time. `busy`: to be asked again later. `broken`: it says that it failed.
 * `refused`: it says why it does not do it. `shut`: it does not take the secret. `missing`: there is no such record. `changed`: it is another
 * version by now. `rubbish`: nothing that can be read. `elsewhere`: it leads away from the site.
 */
export type WireTrouble =
  "unreachable" | "late" | "busy" | "broken" | "refused" | "shut" | "missing" | "changed" | "rubbish" | "elsewhere";

/** Trouble that may be over in a while. */
const PASSING: ReadonlySet<WireTrouble> = new Set(["unreachable", "late", "busy", "broken", "rubbish"]);

/** A site that could not be asked, or did not do what was asked for, in words for a person. */
export class WireError extends Refusal {
  constructor(
    readonly trouble: WireTrouble,
    message: string,
    options?: ErrorOptions & { readonly afterMs?: number | undefined },
  ) {
    super("site", message, options);
    this.afterMs = options?.afterMs ?? null;
  }

  /** How long the site wants to be left alone. */
  readonly afterMs: number | null;

  /** Whether asking again later may help. */
  get isPassing(): boolean {
    return PASSING.has(this.trouble);
  }
}
