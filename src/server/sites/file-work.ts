import { siteSchema } from "../../core/design/schema";
import { loadDemo } from "../../demo/load";
import { DEMO_SITE } from "../../demo/site";
import { siteFile } from "../../store/data-folder";
import { openStore } from "../../store/open";
import { readSite, writeSite } from "../../store/site";
import { removeConnection } from "../../store/wire";
import { makeRows } from "../exchange/table-files";
import { connectDemo } from "../wire/connect-demo";
import { backUp, siteOfBackup } from "./backups";
import { checkSiteFile, copyOf, makeSite, putSite } from "./site-files";

/** What is done with whole sites and large files and takes long, beside all else: in a thread of its own, which ends with it. */
export const fileWork = {
  /** Makes the demo site. @returns its id. */
  makeDemo: (_: undefined): string => {
    const id = makeSite(DEMO_SITE.name, (db) => void loadDemo(db));
    if (process.env["NINE_LINES_PRACTICE"] === "1") connectDemo(id);
    return id;
  },

  /** Makes a site like another one, to try something out on. @returns its id. */
  duplicate: ({ id }: { id: string }): string => {
    const db = openStore(siteFile(id), { readonly: true });
    try {
      const site = readSite(db) ?? siteSchema.parse({ name: id });
      const name = `${site.name} – copy`;
      return putSite(
        copyOf(db, (made) => {
          writeSite(made, { ...site, name });
          // What is tried on a copy is not to reach the live site.
          removeConnection(made);
        }),
        name,
      );
    } finally {
      db.close();
    }
  },

  /** Writes a site as one file, while it is in use. @returns the file, which is the caller's to remove. */
  takeOut: ({ id }: { id: string }): string => {
    const db = openStore(siteFile(id), { readonly: true });
    try {
      return copyOf(db);
    } finally {
      db.close();
    }
  },

  /** Backs a site up while it is in use. */
  backUp: ({ id }: { id: string }): void => backUp(id),

  /** Makes a site of a back-up, beside the one that it is of. @returns its id. */
  siteOfBackup: ({ file }: { file: string }): string => siteOfBackup(file),

  /** Makes rows of a received file of a spreadsheet's or JSON. @throws {TableError} */
  makeRows: ({ token, sheet }: { token: string; sheet: string | null }): Promise<void> => makeRows(token, sheet),

  /** Takes a site's file in. @returns the site's id. @throws {Refusal} where it is none. */
  takeIn: ({ file }: { file: string }): string => putSite(file, checkSiteFile(file)),
};

export type FileWork = typeof fileWork;
