import { type Readable } from "node:stream";
import { type Entry, open, type ZipFile } from "yauzl";
import { TableError } from "./table";

/** No part of a spreadsheet is larger unpacked, in bytes: a small file cannot fill memory or disk. */
const MOST_UNPACKED = 4 * 1024 ** 3;

/** The parts of a zip file by their names. */
export class ZipParts {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
  ) {}

  /** @throws {TableError} where it is no zip file, or a damaged one. */
  static open(file: string): Promise<ZipParts> {
    return new Promise((resolve, reject) => {
      const damaged = (error: Error) => reject(new TableError(`The file is damaged: ${error.message}. Save it again.`));
      open(file, { lazyEntries: true, autoClose: false }, (error, zip) => {
        if (error) return damaged(error);
        const entries = new Map<string, Entry>();
        zip.on("entry", (entry: Entry) => {
          entries.set(entry.fileName.replace(/^\//, ""), entry);
          zip.readEntry();
        });
        zip.on("error", damaged);
        zip.on("end", () => resolve(new ZipParts(zip, entries)));
        zip.readEntry();
      });
    });
  }

  has(name: string): boolean {
    return this.entries.has(name);
  }

  /** @throws {TableError} where there is no such part, or it is too large. */
  async *text(name: string): AsyncGenerator<string> {
    const entry = this.entries.get(name);
    if (!entry) throw new TableError(`The file is no whole spreadsheet: it has no part “${name}”. Save it again.`);
    if (entry.uncompressedSize > MOST_UNPACKED)
      throw new TableError(`A part of the spreadsheet is larger than 4 GB unpacked: “${name}”. Split it.`);
    const stream = await new Promise<Readable>((resolve, reject) =>
      this.zip.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened))),
    );
    stream.setEncoding("utf8");
    yield* stream as AsyncIterable<string>;
  }

  close(): void {
    this.zip.close();
  }
}
