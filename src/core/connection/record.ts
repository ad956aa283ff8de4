import { decodeHTML, escapeUTF8 } from "entities";
import mergePatch from "json-merge-patch";
import { plainText } from "../text/plain";
import { type Json } from "./json";
import { partsOf, putTogether, takeApart } from "./parts";
import { isPath, valueAt, withValueAt } from "./places";
import { type DECODES, type FieldRule, type Fields } from "./schema";

type Decode = (typeof DECODES)[number];

/** What a field is to be: a text, or exactly what is to stand in the record. */
export type FieldValue = string | { readonly form: string };
export type FieldValues = ReadonlyMap<string, FieldValue>;

/** Why a field of a record cannot be read or written, in words. */
export class FieldError extends Error {
  constructor(
    readonly field: string,
    message: string,
  ) {
    super(message);
  }
}

/** A rule, whichever way it was written. */
function normal(rule: FieldRule): { at: string; decode: Decode; join?: string | undefined } | { parts: string } {
  return typeof rule === "string" ? { at: rule, decode: "none" } : rule;
}

/**
 * What a record says of a field, as a text.
 *
 * @returns `null` where the record does not speak of it; `""` where it says that there is none.
 * @throws {FieldError}
 */
export function readField(name: string, rule: FieldRule, record: Json): string | null {
  const own = normal(rule);
  if ("parts" in own) {
    const parts = partsOf(own.parts);
    const isThere = parts.some((part) => "at" in part && valueAt(record, part.at) !== undefined);
    if (!isThere) return null;
    return putTogether(parts, (at) => textsOf(name, at, valueAt(record, at)));
  }
  const value = valueAt(record, own.at);
  if (value === undefined) return null;
  if (name === "attributes" && typeof value === "object" && !Array.isArray(value))
    return value === null ? "" : JSON.stringify(value);
  const texts = textsOf(name, own.at, value);
  return decoded(texts.join(own.join ?? ", "), own.decode);
}

/** A value as texts: one, or those of a list. */
function textsOf(field: string, at: string, value: Json | undefined): string[] {
  if (value === undefined || value === null) return [];
  const values = Array.isArray(value) ? value : [value];
  return values.map((own) => {
    if (own === null) return "";
    if (typeof own === "object")
      throw new FieldError(
        field,
        `${at || "The record"} is ${Array.isArray(own) ? "a list in a list" : "an object"} and no text; point to what is in it`,
      );
    return String(own);
  });
}

function decoded(text: string, decode: Decode): string {
  if (decode === "none") return text;
  return decode === "entities" ? decodeHTML(text) : plainText(text);
}

/**
 * A record with other values in fields; what they stand in stays as it is otherwise.
 *
 * @param values our fields and their new values.
 * @throws {FieldError} where a value has no place in it.
 */
export function withFields(fields: Fields, record: Json, values: FieldValues): Json {
  let next = record;
  for (const [name, value] of values) {
    const rule = fields[name];
    if (rule === undefined) throw new FieldError(name, `The description does not say where ${name} stands`);
    try {
      next = withField(name, rule, next, value);
    } catch (error) {
      throw error instanceof FieldError ? error : new FieldError(name, (error as Error).message);
    }
  }
  return next;
}

function withField(name: string, rule: FieldRule, record: Json, given: FieldValue): Json {
  const own = normal(rule);
  if (typeof given !== "string") {
    if ("parts" in own) throw new FieldError(name, `${name} is put together, and has no form of its own`);
    return withValueAt(record, own.at, given.form);
  }
  const value = given;
  if ("parts" in own) {
    const parts = partsOf(own.parts);
    const taken = takeApart(parts, value);
    if (!taken) throw new FieldError(name, `“${value}” cannot be taken apart as ${own.parts}`);
    let next = record;
    for (const part of parts) {
      if (!("at" in part)) continue;
      const texts = taken.get(part.at) ?? [];
      const isList = part.join !== null;
      const same = JSON.stringify(textsOf(name, part.at, valueAt(next, part.at))) === JSON.stringify(texts);
      if (!same) next = withValueAt(next, part.at, isList ? [...texts] : (texts[0] ?? ""));
    }
    return next;
  }
  const before = valueAt(record, own.at);
  if (Array.isArray(before)) {
    const texts = value === "" ? [] : value.split(own.join ?? ", ").map((text) => encoded(text, own.decode));
    return withValueAt(record, own.at, texts);
  }
  return withValueAt(record, own.at, encoded(inFormOf(name, before, value), own.decode));
}

/** An address stays a whole one, or a path with escapes, where it was one. */
function inFormOf(name: string, before: Json | undefined, value: string): string {
  if (name !== "address" || typeof before !== "string") return value;
  const isEscaped = /%[\da-f]{2}/i.test(before);
  const path = isEscaped ? encodeURI(value) : value;
  return URL.canParse(before) && /^https?:/i.test(before) ? new URL(before).origin + encodeURI(value) : path;
}

function encoded(text: string, decode: Decode): string {
  return decode === "none" ? text : escapeUTF8(text);
}

/** Whether other values can be put into fields only with the record at hand: they stand in lists. */
export function needsRecord(fields: Fields, names: readonly string[]): boolean {
  return names.some((name) => {
    const rule = fields[name];
    if (rule === undefined) return false;
    const own = normal(rule);
    if ("parts" in own) return false;
    return isPath(own.at) || /\/\d+(?:\/|$)/.test(own.at) || own.join !== undefined;
  });
}

/**
 * What makes a record one with other values in fields, as a merge patch (RFC 7396).
 *
 * @param record `null` where none of the fields needs it, see {@link needsRecord}.
 */
export function patchOf(fields: Fields, record: Json | null, values: FieldValues): Json {
  const before = record ?? {};
  const after = withFields(fields, before, values);
  return (mergePatch.generate(before, after) as Json | undefined) ?? {};
}

/**
 * A value in the form in which it stands in a record, where writing what is read of it would give another one.
 *
 * @returns `null` for the usual form, for lists, and for what is put together.
 */
export function formOf(rule: FieldRule, record: Json): { readonly reading: string; readonly form: string } | null {
  const own = normal(rule);
  const form = "parts" in own ? undefined : valueAt(record, own.at);
  if (typeof form !== "string" || "parts" in own) return null;
  const reading = decoded(form, own.decode);
  return encoded(reading, own.decode) === form ? null : { reading, form };
}
