/**
 * The same text, held by itself. A text that was cut out of a longer one keeps all of that in memory as long as it is kept (V8's sliced
 * strings, from 13 characters on): an address that is remembered would keep the piece of the file that it was read from.
 */
export function ownText(text: string): string {
  const encoding = /[^\u0000-\u00ff]/.test(text) ? "utf16le" : "latin1";
  return Buffer.from(text, encoding).toString(encoding);
}
