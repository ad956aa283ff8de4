/**
 * An address is a path with the query that belongs to it, as it is read: `/rope/mooring-line`, `/index.php?p=1`. Escapes stand as
 * the letters that they are, unless the letter would mean something else there.
 */

const SLASH = 47;

/** The path of an address, and its query with the question mark. @example splitQuery("/rope?p=1") // ["/rope", "?p=1"] */
export function splitQuery(address: string): readonly [path: string, query: string] {
  const at = address.indexOf("?");
  return at < 0 ? [address, ""] : [address.slice(0, at), address.slice(at)];
}

/** An address without a slash at the end of its path. @example withoutSlash("/rope/?p=1") // "/rope?p=1" */
export function withoutSlash(address: string): string {
  // Nearly all have neither; asked of every page at each keystroke.
  if (address.charCodeAt(address.length - 1) !== SLASH && !address.includes("?")) return address;
  const [path, query] = splitQuery(address);
  return path.length > 1 && path.endsWith("/") ? path.slice(0, -1) + query : address;
}

/** The folder part of an address: all up to the last segment of its path, with its slash. @example folderOf("/rope/twine?p=1") // "/rope/" */
export function folderOf(address: string): string {
  const trimmed = splitQuery(withoutSlash(address))[0];
  return trimmed.slice(0, trimmed.lastIndexOf("/") + 1);
}

/** The last segment of an address's path. @example lastSegment("/rope/twine/?p=1") // "twine" */
export function lastSegment(address: string): string {
  const trimmed = splitQuery(withoutSlash(address))[0];
  return trimmed.slice(trimmed.lastIndexOf("/") + 1);
}

const STANDS_FOR_A_SITE = "https://site.invalid";
/** Most paths have nothing to settle. */
const PLAIN_PATH = /^(?:\/[a-z\d_~-]+)+\/?$/i;

/**
 * The address of a page from a whole URL, one without its protocol, or a path; `null` for what is none. The fragment is left off; dots and
 * escapes are settled as a browser does.
 *
 * @param dropsQuery whether a query does not belong to an address on the site.
 * @example addressOf("https://x.example/a/../rope/?p=1#top") // "/rope/?p=1"
 */
export function addressOf(text: string, dropsQuery = false): string | null {
  if (PLAIN_PATH.test(text)) return text;
  const shown = text.replace(/[\u200b\u200e\u200f\u2060\ufeff]/g, "").trim();
  if (shown === "" || /[\s\\]/.test(shown)) return null;
  const isWhole = /^[a-z][a-z0-9+.-]*:(?!\d+(?:[/?#]|$))/i.test(shown);
  try {
    const url = shown.startsWith("/")
      ? new URL(shown, STANDS_FOR_A_SITE)
      : new URL(isWhole ? shown : `https://${shown}`);
    if (url.protocol !== "http:" && url.protocol !== "https:") return null;
    if (!url.hostname.includes(".") && url.hostname !== "localhost") return null;
    // Written as a path alone it would read as a host.
    if (url.pathname.startsWith("//")) return null;
    return readable(url.pathname) + (dropsQuery ? "" : readable(url.search));
  } catch {
    return null;
  }
}

/** Escapes of letters and digits, which mean nothing but themselves: `%41`. */
const PLAIN = /%(?:2[de]|3\d|4[1-9a-f]|5[\daf]|6[1-9a-f]|7[\dae])/gi;
const BEYOND_ASCII = /(?:%[89a-f][\da-f])+/gi;

/** With escapes as the letters they are, but for those that mean something or cannot be seen: `%2F` in a path is no slash. */
function readable(text: string): string {
  return text.replace(PLAIN, decodeURIComponent).replace(BEYOND_ASCII, (escapes) => {
    try {
      const letters = decodeURIComponent(escapes);
      return /[\s\p{C}]/u.test(letters) ? escapes : letters;
    } catch {
      return escapes;
    }
  });
}
