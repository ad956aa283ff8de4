import { randomBytes } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

/** The token of the practice site: made once, in a file of the data folder that only its owner reads, by whoever asks first. */
export function practiceToken(folder: string): string {
  const file = join(folder, "practice.token");
  try {
    writeFileSync(file, `${randomBytes(24).toString("hex")}\n`, { mode: 0o600, flag: "wx" });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
  }
  return readFileSync(file, "utf8").trim();
}
