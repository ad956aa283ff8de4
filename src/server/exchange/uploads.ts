import { createWriteStream, existsSync, mkdirSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { Refusal } from "../../core/refusal";
import { databasePath, explain } from "../../store/open";

function uploadsFolder(): string {
  return join(dirname(databasePath()), "uploads");
}

/** The file of a token that {@link receiveFile} gave; tokens hold nothing that leads out of the folder. */
export function uploadedFile(token: string): string {
  if (!/^[a-z0-9-]{8,64}$/.test(token)) throw new Refusal("not-found", "That file is not known here; choose it again");
  const file = join(uploadsFolder(), `${token}.csv`);
  if (!existsSync(file)) throw new Refusal("not-found", "That file is no longer here; choose it again");
  return file;
}

/** Streams an uploaded file to disk; says under which token. */
export async function receiveFile(body: ReadableStream<Uint8Array>): Promise<string> {
  mkdirSync(uploadsFolder(), { recursive: true });
  const token = crypto.randomUUID();
  const file = join(uploadsFolder(), `${token}.csv`);
  try {
    await pipeline(Readable.fromWeb(body as import("node:stream/web").ReadableStream), createWriteStream(file));
  } catch (error) {
    rmSync(file, { force: true });
    throw new Refusal("store", explain(error, file), { cause: error });
  }
  return token;
}

export function forgetFile(token: string): void {
  rmSync(uploadedFile(token), { force: true });
}
