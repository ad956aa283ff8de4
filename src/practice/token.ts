import { randomBytes } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";

/** The token of a practice site: made once, in a file that only its owner reads. */
export function practiceToken(file: string): string {
  if (!existsSync(file)) writeFileSync(file, `${randomBytes(24).toString("hex")}\n`, { mode: 0o600, flag: "wx" });
  return readFileSync(file, "utf8").trim();
}
