import { type Json } from "./json";

const WHOLE = /^\{([A-Za-z][\w.-]*)\}$/;
const NAMES = /\{([A-Za-z][\w.-]*)\}/g;

/**
 * A JSON template with values in it: a text that is a name in braces is the value, whatever it is; in a longer text it is put in.
 * What has no value is left out: a member of an object, an element of a list.
 *
 * @returns `undefined` where the whole has no value.
 */
export function filled(template: Json, values: ReadonlyMap<string, Json>): Json | undefined {
  if (typeof template === "string") {
    const name = WHOLE.exec(template)?.[1];
    if (name !== undefined) return values.get(name);
    let isWhole = true;
    const text = template.replace(NAMES, (_, own: string) => {
      const value = values.get(own);
      if (value === undefined) isWhole = false;
      return typeof value === "string" ? value : JSON.stringify(value ?? "");
    });
    return isWhole ? text : undefined;
  }
  if (Array.isArray(template)) return template.map((own) => filled(own, values)).filter((own) => own !== undefined);
  if (template === null || typeof template !== "object") return template;
  return Object.fromEntries(
    Object.entries(template).flatMap(([name, own]) => {
      const value = filled(own, values);
      return value === undefined ? [] : [[name, value]];
    }),
  );
}

/** The names in braces of a template. */
export function namesIn(template: Json): string[] {
  if (typeof template === "string") return [...template.matchAll(NAMES)].map(([, name]) => name!);
  if (template === null || typeof template !== "object") return [];
  return Object.values(template).flatMap((own: Json) => namesIn(own));
}
