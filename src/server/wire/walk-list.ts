import { type Json } from "../../core/connection/json";
import { firstPlace, nextPlace } from "../../core/connection/paging";
import { valueAt } from "../../core/connection/places";
import { type Connection } from "../../core/connection/schema";
import { type SiteClient } from "./site-client";
import { WireError } from "./wire-error";

/** A stretch of a list. */
export interface ListPart {
  readonly url: string;
  readonly records: readonly Json[];
  /** The site’s clock when it answered; `null` where it does not say. */
  readonly date: string | null;
}

/** A list has an end, whatever a site says. */
const MOST_PARTS = 1_000_000;

/**
 * Walks the list of a kind. What follows is asked for while what came is looked at.
 *
 * @param since only what was changed after that; `null` for all.
 * @throws {WireError} where an answer is not as the description says.
 */
export async function* walkList(
  client: SiteClient,
  connection: Connection,
  kind: string,
  since: string | null,
): AsyncGenerator<ListPart> {
  const { list } = connection.kinds[kind]!;
  let place: ReturnType<typeof nextPlace> = firstPlace(connection.base, list, since);
  let asked = client.read(place.url);
  for (let parts = 0; parts < MOST_PARTS; parts++) {
    const answer = await asked;
    const records = recordsOf(answer.url, answer.body, list.records);
    try {
      place = nextPlace(
        connection.base,
        list,
        since,
        place,
        { url: answer.url, link: answer.header("link"), body: answer.body },
        records.length,
      );
    } catch (error) {
      throw error instanceof WireError ? error : new WireError("rubbish", (error as Error).message, { cause: error });
    }
    if (place) {
      asked = client.read(place.url);
      // Whoever stops in between does not wait for it, nor hear of its failure.
      asked.catch(() => {});
    }
    yield { url: answer.url, records, date: answer.header("date") };
    if (!place) return;
  }
  throw new WireError("rubbish", `The list of ${kind} does not end`);
}

/** @throws {WireError} where no list is. */
export function recordsOf(url: string, body: Json, at: string): readonly Json[] {
  const records = valueAt(body, at);
  if (Array.isArray(records)) return records;
  const found = records === undefined ? "nothing" : kindOf(records);
  throw new WireError(
    "rubbish",
    `${url} has ${found} at ${at === "" ? "its top" : at}, where the list of records is to be`,
  );
}

/** What a value is, in words; an object with its names, so that who looks for something in it sees where it may be. */
function kindOf(value: Json): string {
  if (value === null) return "null";
  if (typeof value !== "object") return `a ${typeof value}`;
  const names = Object.keys(value);
  return names.length === 0
    ? "an empty object"
    : `an object with ${names
        .slice(0, 12)
        .map((name) => `“${name}”`)
        .join(", ")}`;
}
