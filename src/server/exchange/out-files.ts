import { randomUUID } from "node:crypto";
import { createReadStream, createWriteStream, existsSync, mkdirSync, rmSync, statSync } from "node:fs";
import { basename, join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import * as z from "zod";
import { fieldOfColumn, OUT_COLUMNS, OUT_FORMATS, OUT_SHAPES, type OutFileFormat } from "../../core/items/taken-out";
import { Refusal } from "../../core/refusal";
import { explain, isStoreFailure } from "../../store/open";
import { readSite } from "../../store/site";
import { itemQuerySchema } from "../api/schemas";
import { type Asking } from "../api/endpoint";
import { type OpenedSite } from "../workspace/opened-site";
import { pageRecords, pagesFile, type PagesOutAsked } from "./take-out-pages";
import { uploadsFolder } from "./uploads";

/** What is asked of pages that are taken out. */
export const pagesOutSchema = z
  .object({
    shape: z.enum(OUT_SHAPES),
    format: z.enum(OUT_FORMATS),
    query: itemQuerySchema,
    onlyDiffering: z.boolean().default(false),
    fullAddresses: z.boolean().default(false),
    exact: z.boolean().default(false),
    columns: z
      .array(
        z.object({
          column: z.union([
            z.enum([...OUT_COLUMNS.wide, ...OUT_COLUMNS.long]),
            z.templateLiteral(["field:", z.string().min(1).max(200)]),
          ]),
          name: z.string().trim().min(1, { error: "a column needs a name" }).max(200),
        }),
      )
      .min(1, { error: "choose at least one column" })
      .max(200),
  })
  .refine(({ shape, columns }) => shape === "wide" || columns.every(({ column }) => fieldOfColumn(column) === null), {
    error: "a row a change has no fields of pages",
  })
  .refine(({ columns }) => new Set(columns.map(({ name }) => name)).size === columns.length, {
    error: "two columns have the same name",
  });

/** A file that was made, to be fetched. */
export interface MadeFile {
  readonly token: string;
  readonly format: OutFileFormat;
}

/** A made file is the site's that it was made of, and nobody finds it from another. */
function fileOf({ db }: Pick<OpenedSite, "db">, { token, format }: MadeFile): string {
  const site = basename(db.name, ".db").replace(/[^a-z0-9-]/g, "");
  return join(uploadsFolder(), `${token}.${site}.${format}`);
}

/**
 * Makes a file of pages, whole or not at all: what is wrong with it is known before anybody has a part of it.
 *
 * @throws {Refusal} where a page cannot stand in such a file, pages are changed meanwhile, or the disk does not take it.
 */
export async function makePagesFile(site: OpenedSite, asked: PagesOutAsked, asking: Asking): Promise<MadeFile> {
  const made = { token: randomUUID(), format: asked.format };
  const file = fileOf(site, made);
  const fields = asked.columns.flatMap(({ column }) => fieldOfColumn(column) ?? []);
  const pagesOf = (from: number, count: number) => {
    asking.progress(from);
    return site.proof.call("pagesOut", { query: asked.query, from, count, fields }, { signal: asking.signal });
  };
  const records = pageRecords(asked, readSite(site.db)?.baseUrl ?? "", pagesOf);
  mkdirSync(uploadsFolder(), { recursive: true });
  try {
    await pipeline(Readable.from(pagesFile(asked, records)), createWriteStream(file), { signal: asking.signal });
  } catch (error) {
    rmSync(file, { force: true });
    if (isStoreFailure(error)) throw new Refusal("store", explain(error, file), { cause: error });
    throw error;
  }
  return made;
}

/** A made file as it is sent. @throws {Refusal} where it is no longer there. */
export function madeFile(
  site: Pick<OpenedSite, "db">,
  made: MadeFile,
): { readonly body: ReadableStream<Uint8Array>; readonly bytes: number } {
  const file = fileOf(site, made);
  if (!existsSync(file)) throw new Refusal("not-found", "That file has expired; export it again");
  return {
    body: Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>,
    bytes: statSync(file).size,
  };
}
