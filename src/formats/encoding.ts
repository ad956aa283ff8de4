import { isUtf8 } from "node:buffer";

export type Encoding = "utf-8" | "windows-1252" | "utf-16le" | "utf-16be" | "utf-32le" | "utf-32be";

/** How a file's bytes are read. */
export interface Reading {
  readonly encoding: Encoding;
  /** Whether it is UTF-8 but for some bytes that are none: rows with such are not read for what they may have been. */
  readonly isDamaged: boolean;
}

/** UTF-8 with so many well-formed letters beyond ASCII to one byte that is none is UTF-8 that was damaged, no Windows-1252. */
const DAMAGED = 4;
const SAMPLE = 4096;

/**
 * The encoding of a file, by all of its bytes: a byte order mark decides, or where zeros stand; otherwise UTF-8 where the bytes are
 * valid as such, to the last one; else Windows-1252. Shown one piece after another.
 */
export class EncodingDetector {
  private wide: Encoding | null = null;
  private first = true;
  private rest: Uint8Array = new Uint8Array();
  private letters = 0;
  private faults = 0;

  see(chunk: Uint8Array): void {
    if (this.first) this.wide = wideEncoding(chunk);
    this.first = false;
    if (this.wide) return;
    const bytes = this.rest.length > 0 ? Buffer.concat([this.rest, chunk]) : chunk;
    const whole = wholeLetters(bytes);
    this.rest = bytes.slice(whole);
    const sound = bytes.subarray(0, whole);
    if (isUtf8(sound)) this.letters += countLeads(sound);
    else {
      const { letters, faults } = countLetters(sound);
      this.letters += letters;
      this.faults += faults;
    }
  }

  /** Whether what was seen so far says already what no further byte can change. */
  get isSure(): boolean {
    return this.wide !== null;
  }

  reading(): Reading {
    if (this.wide) return { encoding: this.wide, isDamaged: false };
    const faults = this.faults + (isUtf8(this.rest) ? 0 : 1);
    if (faults === 0) return { encoding: "utf-8", isDamaged: false };
    return this.letters > faults * DAMAGED
      ? { encoding: "utf-8", isDamaged: true }
      : { encoding: "windows-1252", isDamaged: false };
  }
}

/** UTF-16 or UTF-32 by the mark at the beginning, or by where the zeros of plain letters are. */
function wideEncoding(head: Uint8Array): Encoding | null {
  const [a, b, c, d] = head;
  if (a === 0xff && b === 0xfe) return c === 0 && d === 0 ? "utf-32le" : "utf-16le";
  if (a === 0 && b === 0 && c === 0xfe && d === 0xff) return "utf-32be";
  if (a === 0xfe && b === 0xff) return "utf-16be";
  const sample = head.subarray(0, SAMPLE & ~3);
  if (sample.length < 8) return null;
  const zeros = [0, 0, 0, 0];
  for (let i = 0; i < sample.length; i++) if (sample[i] === 0) zeros[i % 4]!++;
  const most = (sample.length / 4) * 0.8;
  const [first, second, third, fourth] = zeros.map((count) => count >= most);
  if (first && second && third && !fourth) return "utf-32be";
  if (!first && second && third && fourth) return "utf-32le";
  if (first && third && !second && !fourth) return "utf-16be";
  if (second && fourth && !first && !third) return "utf-16le";
  return null;
}

/** How many of the bytes are whole letters: one at the end may go on in the next piece. */
function wholeLetters(bytes: Uint8Array): number {
  for (let back = 1; back <= 3 && back <= bytes.length; back++) {
    const byte = bytes[bytes.length - back]!;
    if (byte >= 0xc0) return lengthOf(byte) > back ? bytes.length - back : bytes.length;
    if (byte < 0x80) break;
  }
  return bytes.length;
}

function lengthOf(lead: number): number {
  return lead >= 0xf0 ? 4 : lead >= 0xe0 ? 3 : 2;
}

function countLeads(bytes: Uint8Array): number {
  let leads = 0;
  for (let i = 0; i < bytes.length; i++) if (bytes[i]! >= 0xc0) leads++;
  return leads;
}

/** Well-formed letters beyond ASCII, and bytes that belong to none. */
function countLetters(bytes: Uint8Array): { letters: number; faults: number } {
  let letters = 0;
  let faults = 0;
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!;
    if (byte < 0x80) continue;
    const length = lengthOf(byte);
    if (byte >= 0xc2 && byte <= 0xf4 && isUtf8(bytes.subarray(i, i + length)) && i + length <= bytes.length) {
      letters++;
      i += length - 1;
    } else faults++;
  }
  return { letters, faults };
}

/** Whether the bytes look like no text at all: a zip, a picture, a database. */
export function looksBinary(head: Uint8Array, encoding: Encoding): boolean {
  if (encoding.startsWith("utf-16") || encoding.startsWith("utf-32")) return false;
  const sample = head.subarray(0, SAMPLE);
  let control = 0;
  for (const byte of sample)
    if (byte === 0 || (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13 && byte !== 12)) control++;
  return control > sample.length / 50;
}
