/**
 * Paths of redirects, in the form in which they are compared: the normal form of RFC 3986, 6.2.2. Escapes of unreserved letters are
 * the letters, all other escapes are in capitals, what may not stand in a path is escaped, dots are resolved. Case counts, and an
 * escaped slash is no slash.
 */

/** Most paths are in the normal form already: no escape, no dot behind a slash, nothing that has to be escaped. */
const PLAIN = /^\/(?:[A-Za-z0-9_~/!$&'()*+,;=:@-]|(?<=[^/.])\.)*$/;
/** What is neither allowed in a path nor an escape: `pchar` and `/` of RFC 3986, 3.3. */
const TO_ESCAPE = /%[\da-f]{2}|[^A-Za-z0-9\-._~!$&'()*+,;=:@/]/giu;
/** The same for queries and fragments, RFC 3986, 3.4 and 3.5. */
const TO_ESCAPE_IN_QUERY = /%[\da-f]{2}|[^A-Za-z0-9\-._~!$&'()*+,;=:@/?]/giu;
const UNRESERVED = /[A-Za-z0-9\-._~]/;

/**
 * A path in its normal form.
 *
 * @param path begins with a slash and has neither a query nor a fragment.
 * @example normalPath("/caf%c3%a9/a%2Db/../x") // "/caf%C3%A9/x"
 */
export function normalPath(path: string): string {
  return PLAIN.test(path) ? path : withoutDots(path.replace(TO_ESCAPE, settled));
}

/** A query or a fragment with its sign, in normal form. @example normalQuery("?q=caf%c3%a9") // "?q=caf%C3%A9" */
export function normalQuery(query: string): string {
  return query === "" ? "" : query[0]! + query.slice(1).replace(TO_ESCAPE_IN_QUERY, settled);
}

function settled(found: string): string {
  if (found.length === 3 && found[0] === "%") {
    const letter = String.fromCharCode(parseInt(found.slice(1), 16));
    return UNRESERVED.test(letter) ? letter : found.toUpperCase();
  }
  // Half of a pair of surrogates is no character; what a browser would send stands for it.
  return encodeURIComponent(found.isWellFormed() ? found : "\ufffd");
}

/** Without `.` and `..`: RFC 3986, 5.2.4. */
function withoutDots(path: string): string {
  if (!path.includes("/.")) return path;
  const kept: string[] = [];
  const segments = path.slice(1).split("/");
  segments.forEach((segment, i) => {
    const isLast = i === segments.length - 1;
    if (segment === "..") kept.pop();
    else if (segment !== ".") kept.push(segment);
    if (isLast && (segment === "." || segment === "..")) kept.push("");
  });
  return `/${kept.join("/")}`;
}

/** What a path that is followed is made of. */
export interface PathParts {
  readonly path: string;
  /** With its question mark, `""` for none. */
  readonly query: string;
  /** With its number sign, `""` for none. */
  readonly fragment: string;
}

/** @example pathParts("/a?b=1#c") // { path: "/a", query: "?b=1", fragment: "#c" } */
export function pathParts(text: string): PathParts {
  const hash = text.indexOf("#");
  const rest = hash < 0 ? text : text.slice(0, hash);
  const question = rest.indexOf("?");
  return {
    path: question < 0 ? rest : rest.slice(0, question),
    query: question < 0 ? "" : rest.slice(question),
    fragment: hash < 0 ? "" : text.slice(hash),
  };
}

/** A path with query and fragment, each in normal form. */
export function normalAddress(text: string): string {
  const { path, query, fragment } = pathParts(text);
  return normalPath(path) + normalQuery(query) + normalQuery(fragment);
}

/** A normal path as people read it: escapes of letters beyond ASCII as the letters. @example readablePath("/caf%C3%A9%20x") // "/café%20x" */
export function readablePath(path: string): string {
  if (!path.includes("%")) return path;
  return path.replace(/(?:%[89A-F][\dA-F])+/g, (escapes) => {
    try {
      const letters = decodeURIComponent(escapes);
      return /[\s\p{C}]/u.test(letters) ? escapes : letters;
    } catch {
      return escapes;
    }
  });
}
