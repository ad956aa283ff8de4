import { type Target, TARGETS } from "../../core/design/import-targets";

/** A description as far as the screen looks into it; the server says what is wrong with the rest. */
export interface LooseDescription {
  readonly kinds?: Readonly<Record<string, { readonly fields?: Readonly<Record<string, unknown>> }>>;
  readonly fields?: Readonly<Record<string, unknown>>;
}

/** What only files have, or what is said otherwise in a description. */
const NOT_OFFERED: ReadonlySet<Target> = new Set<Target>([
  "kind",
  "by-hand",
  "hand-texts",
  "attribute",
  "made-harmless",
  "skip",
]);

/** Fields that pages usually have, in the order in which they are offered. */
export const FIELD_NAMES: readonly string[] = TARGETS.filter((target) => !NOT_OFFERED.has(target));

/** A description that is being written; `null` while it is no JSON object. */
export function readLoosely(text: string): LooseDescription | null {
  try {
    const read = JSON.parse(text) as unknown;
    return typeof read === "object" && read !== null && !Array.isArray(read) ? read : null;
  } catch {
    return null;
  }
}

/** The names of its kinds. */
export function kindsIn(text: string): string[] {
  const kinds = readLoosely(text)?.kinds;
  return typeof kinds === "object" ? Object.keys(kinds) : [];
}

/** A description in which a field stands at another place; what else its rule says is kept. */
export function withPlace(text: string, field: string, place: string): string {
  const description = readLoosely(text);
  if (!description) return text;
  const before = description.fields?.[field];
  const isRule = typeof before === "object" && before !== null && "at" in before;
  // The steps of a path stand in a list as often as in one text.
  const first = field === "category.path" ? { at: place, join: " › " } : place;
  const rule = isRule ? { ...before, at: place } : first;
  return written({ ...description, fields: { ...description.fields, [field]: rule } });
}

/** A description without a field. */
export function withoutField(text: string, field: string): string {
  const description = readLoosely(text);
  if (!description?.fields) return text;
  const { [field]: _, ...fields } = description.fields;
  return written({ ...description, fields });
}

export function written(description: object): string {
  return `${JSON.stringify(description, null, 2)}\n`;
}

/** Where a field stands, as it is written. */
export function placeIn(text: string, field: string): string | null {
  const rule = readLoosely(text)?.fields?.[field];
  if (typeof rule === "string") return rule;
  if (typeof rule !== "object" || rule === null) return null;
  const { at, parts } = rule as { at?: unknown; parts?: unknown };
  return typeof at === "string" ? at : typeof parts === "string" ? parts : null;
}

type Step = string | number;

/** The JSON Pointer of a place in a record. @example pointerTo(["meta", 0, "a/b"]) // "/meta/0/a~1b" */
export function pointerTo(path: readonly Step[]): string {
  return path.map((step) => `/${String(step).replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}

/** Names by which lists of keys and values call their keys. */
const KEYS = ["key", "name", "type", "role", "code", "property"];

/**
 * How a value that was clicked is found in other records too: in a list of keys and values by its key, else by its place.
 *
 * @example placeOf({ meta: [{ key: "t", value: "x" }] }, ["meta", 0, "value"]) // "$.meta[?@.key=='t'].value"
 */
export function placeOf(record: unknown, path: readonly Step[]): string {
  let at: unknown = record;
  let query = "$";
  let isByKey = false;
  for (const [i, step] of path.entries()) {
    const holder = at;
    at = (at as Record<Step, unknown>)[step];
    if (typeof step === "number" && Array.isArray(holder)) {
      const key = keyOf(at, path[i + 1]);
      isByKey ||= key !== null;
      query += key === null ? `[${step}]` : `[?@.${key.name}=='${key.value}']`;
    } else query += /^[A-Za-z_]\w*$/.test(String(step)) ? `.${step}` : `['${String(step).replace(/['\\]/g, "\\$&")}']`;
  }
  return isByKey ? query : pointerTo(path);
}

/** What an element of a list is told from the others by, where its value is what is meant. */
function keyOf(element: unknown, wanted: Step | undefined): { name: string; value: string } | null {
  if (typeof element !== "object" || element === null) return null;
  for (const name of KEYS) {
    const value = (element as Record<string, unknown>)[name];
    if (name !== wanted && typeof value === "string" && /^[\w .:-]+$/.test(value)) return { name, value };
  }
  return null;
}
