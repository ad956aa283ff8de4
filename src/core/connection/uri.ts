import { parseTemplate } from "url-template";

/** Expressions of RFC 6570, 2.2: an operator or none, and names with what is done to each. */
const EXPRESSION = /\{([+#./;?&]?)([^{}]*)\}/g;
const NAME = /^([A-Za-z0-9_.]+)(?:\*|:[1-9]\d{0,3})?$/;

/** @throws {Error} in words, where a text is no URI template below a base, or names what there is not. */
export function checkUri(template: string, names: readonly string[]): void {
  if (!template.startsWith("/")) throw new Error(`“${template}” does not begin with “/”: it goes behind the base`);
  if (template.includes("#")) throw new Error(`“${template}” has a “#”; what is behind it is never sent`);
  for (const [whole, , inner = ""] of template.matchAll(EXPRESSION))
    for (const variable of inner.split(",")) {
      const name = NAME.exec(variable)?.[1];
      if (name === undefined) throw new Error(`${whole} is no expression of a URI template`);
      if (!names.includes(name))
        throw new Error(
          `${whole}: there is no “${name}” here${names.length > 0 ? `, only ${names.join(", ")}` : ", only a fixed address"}`,
        );
    }
  if (/[{}\s]/.test(template.replaceAll(EXPRESSION, "")))
    throw new Error(`“${template}” has a space, or a brace without its other half`);
}

/** Whether a template has a place for a name. */
export function namesVariable(template: string, name: string): boolean {
  return [...template.matchAll(EXPRESSION)].some(([, , inner = ""]) =>
    inner.split(",").some((variable) => NAME.exec(variable)?.[1] === name),
  );
}

/** A parameter of a query that is nothing but a variable. */
const PARAMETER = /([?&])([^?&={}#]+)=\{([A-Za-z0-9_.]+)\}/g;

/**
 * The address that a template gives below a base. What is `null` is left out, and with it the name of a parameter that is nothing else:
 * interfaces take `?after=` for a value.
 *
 * @example expanded("http://a.example", "/p?per={limit}&after={since}", { limit: 5, since: null }) // "http://a.example/p?per=5"
 */
export function expanded(
  base: string,
  template: string,
  values: Readonly<Record<string, string | number | null>>,
): string {
  const kept = template
    .replaceAll(PARAMETER, (whole, sign: string, _, name: string) => ((values[name] ?? null) === null ? sign : whole))
    .replace(/&{2,}/g, "&")
    .replace("?&", "?")
    .replace(/[?&](?=$|\{[?&])/, "");
  // Without a first parameter of its own a continuation begins the query.
  const begun = kept.includes("?") ? kept : kept.replace("{&", "{?");
  return base + parseTemplate(begun).expand({ ...values });
}
