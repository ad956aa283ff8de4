/** How many bytes a charset is looked for in: HTML, 13.2.3.2. */
const PRESCAN = 1024;
const DEFAULT = "windows-1252";

const BOMS = [
  [[0xef, 0xbb, 0xbf], "utf-8"],
  [[0xfe, 0xff], "utf-16be"],
  [[0xff, 0xfe], "utf-16le"],
] as const;

/**
 * The text of an HTML page: its charset by byte order mark, by header, by `meta`; UTF-8 where nothing says it and it is that, and
 * Windows-1252 otherwise, as browsers take it (HTML, 13.2.3).
 *
 * @param contentType the header of the answer, `null` where it has none.
 */
export function decodeHtml(
  bytes: Uint8Array,
  contentType: string | null,
): { readonly text: string; readonly charset: string } {
  const marked = BOMS.find(([mark]) => mark.every((byte, i) => bytes[i] === byte))?.[1];
  const said = marked ?? known(charsetIn(contentType ?? "")) ?? known(metaCharset(bytes));
  const charset = said ?? (isUtf8(bytes) ? "utf-8" : DEFAULT);
  return { text: new TextDecoder(charset).decode(bytes), charset };
}

function charsetIn(contentType: string): string | null {
  return /charset\s*=\s*["']?([^\s;"']+)/i.exec(contentType)?.[1] ?? null;
}

function metaCharset(bytes: Uint8Array): string | null {
  const start = new TextDecoder("latin1").decode(bytes.subarray(0, PRESCAN)).replace(/<!--[\s\S]*?-->/g, "");
  for (const [meta] of start.matchAll(/<meta[\s/][^>]*>/gi)) {
    const found = charsetIn(meta);
    // A page that was read this far as single bytes is not in UTF-16, whatever it says.
    if (found !== null) return /^utf-16/i.test(found) ? "utf-8" : found;
  }
  return null;
}

/** The name of a charset as the decoder knows it; `null` for one that there is not. */
function known(label: string | null): string | null {
  if (label === null) return null;
  try {
    return new TextDecoder(label).encoding;
  } catch {
    return null;
  }
}

function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}
