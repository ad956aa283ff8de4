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

/** A part that is none is asked for so many times: what stands between may have answered in the site’s place, a description that is wrong stays so. */
const TRIES = 4;

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
  const askFor = async (place: Place) => {
    for (let tries = 1; ; tries++) {
      const answer = await client.read(place.url);
      try {
        const records = recordsOf(answer.url, answer.body, list.records);
        return { answer, records, next: placeAfter(connection, list, since, place, answer, records.length) };
      } catch (error) {
        if (tries === TRIES) throw error;
      }
    }
  };
  let asked = askFor(firstPlace(connection.base, list, since));
  for (let parts = 0; parts < MOST_PARTS; parts++) {
    const { answer, records, next } = await asked;
    if (next) {
      asked = askFor(next);
      // Whoever stops in between does not wait for it, nor hear of its failure.
      asked.catch(() => {});
    }
    yield { url: answer.url, records, date: answer.header("date") };
    if (!next) return;
  }
  throw new WireError("rubbish", `The list of ${kind} does not end`);
}

type Place = ReturnType<typeof firstPlace>;

/** Where the part after an answer is, `null` after the last. @throws {WireError} where the answer does not say. */
function placeAfter(
  connection: Connection,
  list: Connection["kinds"][string]["list"],
  since: string | null,
  place: Place,
  { url, header, body }: Awaited<ReturnType<SiteClient["read"]>>,
  records: number,
): Place | null {
  try {
    return nextPlace(connection.base, list, since, place, { url, link: header("link"), body }, records);
  } catch (error) {
    throw error instanceof WireError ? error : new WireError("rubbish", (error as Error).message, { cause: error });
  }
}

/** @throws {WireError} where no list is. */
export function recordsOf(url: string, body: Json, at: string): readonly Json[] {
  const records = valueAt(body, at);
  // Something else answered with a list of its own; taken for records, it would end the list here, and what follows were lost.
  const odd = Array.isArray(records) ? records.find((record) => !isRecord(record)) : undefined;
  if (Array.isArray(records) && odd === undefined) return records;
  const found =
    odd !== undefined ? `a list with ${kindOf(odd)} in it` : records === undefined ? "nothing" : kindOf(records);
  throw new WireError(
    "rubbish",
    `${url} has ${found} at ${at === "" ? "its top" : at}, where the list of records is to be`,
  );
}

function isRecord(value: Json): boolean {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** What a value is, in words; an object with its names, so that who looks for something in it sees where it may be. */
function kindOf(value: Json): string {
  if (value === null) return "null";
  if (typeof value !== "object") return `a ${typeof value}`;
  if (Array.isArray(value)) return "a list";
  const names = Object.keys(value);
  return names.length === 0
    ? "an empty object"
    : `an object with ${names
        .slice(0, 12)
        .map((name) => `“${name}”`)
        .join(", ")}`;
}
