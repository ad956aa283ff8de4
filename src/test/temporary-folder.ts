import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Gives a run of tests one folder for whatever its tests and their programs lay down in a temporary folder, and removes it in the end. */
export default function setup(): () => void {
  const folder = mkdtempSync(join(tmpdir(), "nine-lines-tests-"));
  // `TEMP` is its name on Windows.
  process.env.TMPDIR = process.env.TEMP = folder;
  return () => rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
}
