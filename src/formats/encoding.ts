import { isUtf8 } from "node:buffer";

export type Encoding = "utf-8" | "windows-1252" | "utf-16le" | "utf-16be";

/**
 * The encoding of a file by its first bytes: a byte order mark decides; otherwise UTF-8 where the bytes are valid as
 * such, else Windows-1252.
 *
 * @param head the file's first bytes; a character cut at their end does not count against UTF-8.
 */
export function detectEncoding(head: Uint8Array): Encoding {
  if (head[0] === 0xff && head[1] === 0xfe) return "utf-16le";
  if (head[0] === 0xfe && head[1] === 0xff) return "utf-16be";
  for (let cut = 0; cut < 4 && cut < head.length; cut++)
    if (isUtf8(head.subarray(0, head.length - cut))) return "utf-8";
  return head.length === 0 ? "utf-8" : "windows-1252";
}

/** Whether the bytes look like no text at all: a zip, a picture, a database. */
export function looksBinary(head: Uint8Array, encoding: Encoding): boolean {
  if (encoding.startsWith("utf-16")) return false;
  const sample = head.subarray(0, 4096);
  let control = 0;
  for (const byte of sample)
    if (byte === 0 || (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13 && byte !== 12)) control++;
  return sample.includes(0) || control > sample.length / 50;
}
