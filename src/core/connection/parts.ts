import { checkPlace } from "./places";

/** A piece of a value that is put together: a text, or what stands at a place, a list joined by a sign. */
export type Part = { readonly text: string } | { readonly at: string; readonly join: string | null };

const PART = /\{((?:\/|\$)[^{}]*?)(?::join\('([^']*)'\))?\}/g;

/**
 * The pieces of a description such as `/{/place/segments:join('/')}/{/place/leaf}`.
 *
 * @throws {Error} in words, where it is none.
 */
export function partsOf(description: string): Part[] {
  const parts: Part[] = [];
  let from = 0;
  const addText = (text: string) => {
    if (/[{}]/.test(text)) throw new Error(`“${text}” has a brace that belongs to no place, such as {/name}`);
    if (text !== "") parts.push({ text });
  };
  for (const { 0: whole, 1: at = "", 2: join, index } of description.matchAll(PART)) {
    addText(description.slice(from, index));
    checkPlace(at);
    parts.push({ at, join: join ?? null });
    from = index + whole.length;
  }
  addText(description.slice(from));
  if (!parts.some((part) => "at" in part)) throw new Error("No place, such as {/name}, is in it");
  return parts;
}

/**
 * Puts a value together. A list that is empty takes the sign behind it along: without folders `/{/folders:join('/')}/{/name}` is `/name`.
 *
 * @param valueOf texts at a place; one that is not there is empty.
 */
export function putTogether(parts: readonly Part[], valueOf: (at: string) => readonly string[]): string {
  let value = "";
  let skip = "";
  for (const part of parts) {
    if ("text" in part) {
      value += skip !== "" && part.text.startsWith(skip) ? part.text.slice(skip.length) : part.text;
      skip = "";
      continue;
    }
    const values = valueOf(part.at);
    value += part.join === null ? (values[0] ?? "") : values.join(part.join);
    skip = part.join !== null && values.length === 0 ? part.join : "";
  }
  return value;
}

/**
 * Takes a value apart again: what has to stand at each place so that it is put together like this.
 *
 * @returns `null` where it cannot be put together so.
 */
export function takeApart(parts: readonly Part[], value: string): ReadonlyMap<string, readonly string[]> | null {
  let pattern = "";
  let owed = "";
  parts.forEach((part, i) => {
    if ("text" in part) {
      pattern += escaped(owed !== "" ? part.text.slice(owed.length) : part.text);
      owed = "";
      return;
    }
    const next = parts[i + 1];
    const sign = part.join;
    if (sign !== null && sign !== "" && next && "text" in next && next.text.startsWith(sign)) {
      pattern += `(?:(.*)${escaped(sign)})?`;
      owed = sign;
    } else pattern += sign === null ? "([^/]*)" : "(.*)";
  });
  const found = new RegExp(`^${pattern}$`, "su").exec(value);
  if (!found) return null;
  const places = parts.flatMap((part) => ("at" in part ? [part] : []));
  return new Map(
    places.map(({ at, join }, i) => {
      const text = found[i + 1];
      if (join === null) return [at, [text ?? ""]];
      return [at, text === undefined || text === "" ? [] : text.split(join)];
    }),
  );
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\/]/g, "\\$&");
}
