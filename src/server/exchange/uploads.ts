import { createWriteStream, existsSync, mkdirSync, readdirSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import { Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { Refusal } from "../../core/refusal";
import { dataFolder } from "../../store/data-folder";
import { explain } from "../../store/open";

/** Files that nobody brought in are kept so long. */
export const KEPT_FOR_MS = 24 * 3600 * 1000;
const DEFAULT_MOST_MB = 2048;

/** Files that came in, or were made to be fetched; what nobody waits for is cleaned up. */
export function uploadsFolder(): string {
  return join(dataFolder(), "uploads");
}

/** How large a received file may be, in MB: `NINE_LINES_MOST_UPLOAD`, or 2,048. */
function mostMegabytes(): number {
  const own = Number(process.env["NINE_LINES_MOST_UPLOAD"]);
  return own > 0 ? own : DEFAULT_MOST_MB;
}

/** The file of a token that {@link receiveFile} gave; tokens hold nothing that leads out of the folder. */
export function uploadedFile(token: string): string {
  if (!/^[a-z0-9-]{8,64}$/.test(token)) throw new Refusal("not-found", "That file is unknown; choose it again");
  const { received, rows } = filesOf(token);
  if (existsSync(rows)) return rows;
  if (!existsSync(received)) throw new Refusal("not-found", "That file has expired; choose it again");
  return received;
}

/** A received file as it came, and the rows that were made of it where it is no text with delimiters. */
export function filesOf(token: string): { readonly received: string; readonly rows: string } {
  const [received, rows] = [".csv", ".rows"].map((end) => join(uploadsFolder(), `${token}${end}`)) as [string, string];
  return { received, rows };
}

/**
 * Streams an uploaded file to disk; says under which token.
 *
 * @throws {Refusal} for one that is larger than files may be, or that the disk does not take; nothing of it is kept.
 */
export async function receiveFile(body: ReadableStream<Uint8Array>): Promise<string> {
  mkdirSync(uploadsFolder(), { recursive: true });
  const token = crypto.randomUUID();
  const file = join(uploadsFolder(), `${token}.csv`);
  try {
    await pipeline(
      Readable.fromWeb(body as import("node:stream/web").ReadableStream),
      bounded(mostMegabytes()),
      createWriteStream(file),
    );
  } catch (error) {
    rmSync(file, { force: true });
    if (error instanceof Refusal) throw error;
    throw new Refusal("store", explain(error, file), { cause: error });
  }
  return token;
}

/** Lets so many MB through. */
function bounded(megabytes: number): Transform {
  let left = megabytes * 1024 * 1024;
  return new Transform({
    transform(chunk: Uint8Array, _, done) {
      left -= chunk.length;
      if (left >= 0) return done(null, chunk);
      const most = megabytes.toLocaleString("en");
      done(
        new Refusal(
          "invalid",
          `The file is larger than ${most} MB, the maximum. Split it, or start the server with NINE_LINES_MOST_UPLOAD set to more MB.`,
        ),
      );
    },
  });
}

export function forgetFile(token: string): void {
  for (const file of Object.values(filesOf(token))) rmSync(file, { force: true });
}

/**
 * Removes received files that nobody waits for.
 *
 * @param wanted the tokens of the files that jobs still need.
 * @param olderThan only files that are so many ms old; 0 for all of them.
 */
export function cleanUploads(wanted: ReadonlySet<string>, olderThan: number, now = Date.now()): void {
  const folder = uploadsFolder();
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder)) {
    const file = join(folder, name);
    if (wanted.has(name.replace(/\.(csv|rows)$/, ""))) continue;
    // A clock tells whole ms, a file parts of one: of a file of this very ms the age would be less than nothing.
    const age = now - Math.floor(statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? now);
    if (age >= olderThan) rmSync(file, { force: true });
  }
}
