import { chmodSync, existsSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import * as z from "zod";
import { Refusal } from "../../core/refusal";

/** Only variables of such names are read: a description from elsewhere cannot ask for others. */
const ENVIRONMENT = "NINE_LINES_SECRET";

/** What a secret is for, and where it is. */
const secretSchema = z.object({ origin: z.string(), secret: z.string() });

/** The file of a site’s secret, beside its database; only who runs the server reads it. */
function secretFile(database: string): string {
  return `${database.replace(/\.db$/, "")}.secret`;
}

/** The variable that has a site’s secret where no file has: `NINE_LINES_SECRET_ROPE_SHOP` for the site `rope-shop`. */
export function secretVariable(database: string): string {
  const id = /([^/\\]+?)(?:\.db)?$/.exec(database)?.[1] ?? "";
  return `${ENVIRONMENT}_${id.toUpperCase().replace(/[^A-Z0-9]/g, "_")}`;
}

/**
 * The secret of a site’s interface: from its file, which names the origin that it is for, or from the environment.
 *
 * @param base the interface’s. @returns `null` where none is set, or the one that is was set for another origin.
 */
export function readSecret(database: string, base: string): string | null {
  const file = secretFile(database);
  if (!existsSync(file)) return process.env[secretVariable(database)] ?? null;
  const read = secretSchema.safeParse(JSON.parse(readFileSync(file, "utf8")));
  return read.success && read.data.origin === new URL(base).origin ? read.data.secret : null;
}

/** Whether a secret comes from the environment. */
export function isFromEnvironment(database: string): boolean {
  return !existsSync(secretFile(database)) && process.env[secretVariable(database)] !== undefined;
}

/** Keeps a secret in a file of its own, which only its owner reads. */
export function writeSecret(database: string, base: string, secret: string): void {
  if (/[\r\n\0]/.test(secret)) throw new Refusal("invalid", "A secret is one line");
  const file = secretFile(database);
  const making = `${file}.new`;
  writeFileSync(making, JSON.stringify({ origin: new URL(base).origin, secret }), { mode: 0o600 });
  chmodSync(making, 0o600);
  renameSync(making, file);
}

export function removeSecret(database: string): void {
  rmSync(secretFile(database), { force: true });
}
