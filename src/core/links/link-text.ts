import { foldedSpaces } from "../text/plain";

/**
 * A link’s text as texts are compared: in small letters, without marks and arrows around it.
 *
 * @example linkTextKey("Read more …") // "read more"
 */
export function linkTextKey(text: string): string {
  return foldedSpaces(text)
    .toLowerCase()
    .replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, "");
}

/** A file, which is no page and is not looked for among pages; endings that pages have are none. */
const FILE = /\.(?!(?:x?html?|php\d?|aspx?|jsp|cgi)$)[a-z][a-z0-9]{1,4}$/i;

/** @example isFilePath("/files/splicing.pdf") // true */
export function isFilePath(path: string): boolean {
  return FILE.test(path.replace(/[?#].*$/s, ""));
}
