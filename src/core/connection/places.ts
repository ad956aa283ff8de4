import * as jsonpath from "jsonpath-rfc9535";
import jsonpointer from "jsonpointer";
import { type Json } from "./json";

/** @throws {Error} with words for a person, where a text is neither a JSON Pointer nor a JSONPath. */
export function checkPlace(text: string): void {
  if (isPath(text)) {
    try {
      jsonpath.query(null, text);
    } catch (error) {
      const at = (error as { location?: { start?: { offset?: number } } }).location?.start?.offset;
      const where = at === undefined ? "" : `; it cannot be read from “${text.slice(at, at + 20)}” on`;
      throw new Error(`“${text}” is no JSONPath${where}`, { cause: error });
    }
  } else if (text !== "" && !text.startsWith("/"))
    throw new Error(
      `“${text}” is neither a JSON Pointer, which begins with “/”, nor a JSONPath, which begins with “$”`,
    );
  else if (/~(?![01])/.test(text)) throw new Error(`“${text}” is no JSON Pointer: behind “~” comes 0 or 1`);
}

/** What stands at a place; `undefined` where nothing does. A JSONPath that finds several gives a list of them. */
export function valueAt(record: Json, place: string): Json | undefined {
  if (!isPath(place)) return atPointer(record, place);
  const found = jsonpath.query(record, place) as Json[];
  return found.length < 2 ? found[0] : found;
}

/** JSON Pointers of everything that a place is about; none where nothing stands there. */
export function pointersTo(record: Json, place: string): string[] {
  if (!isPath(place)) return atPointer(record, place) === undefined ? [] : [place];
  const pointers: string[] = [];
  jsonpath.exec(record, place, (_, path) => {
    pointers.push(pointerOf(path));
  });
  return pointers;
}

/**
 * A record with another value at a place; the one that is given stays as it is.
 *
 * @throws {Error} in words, where the record has no such place.
 */
export function withValueAt(record: Json, place: string, value: Json): Json {
  if (place === "") return value;
  const pointers = isPath(place) ? pointersTo(record, place) : [place];
  if (pointers.length !== 1)
    throw new Error(
      pointers.length === 0
        ? `The record has nothing at ${place}`
        : `The record has ${pointers.length} values at ${place}, not one`,
    );
  const copy = structuredClone(record);
  const parts = partsOfPointer(pointers[0]!);
  let holder: Json = copy;
  for (const [i, part] of parts.entries()) {
    if (holder === null || typeof holder !== "object")
      throw new Error(`The record has no ${place}: there is a ${typeof holder} on the way`);
    const own = holder as Record<string, Json>;
    if (i === parts.length - 1) set(own, part, value);
    else {
      if (!Object.hasOwn(own, part)) set(own, part, {});
      holder = own[part]!;
    }
  }
  return copy;
}

/** Also for names such as `__proto__`, which assigning would not write down. */
function set(holder: Record<string, Json>, name: string, value: Json): void {
  Object.defineProperty(holder, name, { value, writable: true, enumerable: true, configurable: true });
}

export function isPath(place: string): boolean {
  return place.startsWith("$");
}

function atPointer(record: Json, pointer: string): Json | undefined {
  if (pointer === "") return record;
  if (record === null || typeof record !== "object") return undefined;
  // The library refuses names of JavaScript’s own; what a record has under its own names is looked up here.
  if (!/proto|constructor/.test(pointer)) return jsonpointer.get(record, pointer) as Json | undefined;
  let at: Json | undefined = record;
  for (const part of partsOfPointer(pointer))
    at =
      at !== null && typeof at === "object" && Object.hasOwn(at, part) ? (at as Record<string, Json>)[part] : undefined;
  return at;
}

function partsOfPointer(pointer: string): string[] {
  return pointer
    .slice(1)
    .split("/")
    .map((part) => part.replaceAll("~1", "/").replaceAll("~0", "~"));
}

function pointerOf(path: readonly (string | number)[]): string {
  return path.map((part) => `/${String(part).replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}
