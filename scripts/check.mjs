// npm run check: format, types, lint (the import directions among it), import cycles, unused files, exports and packages.
import { spawnSync } from "node:child_process";
import { ensurePackages } from "./setup.mjs";

/** Each check with the command that makes it; all are made, and named where they fail. */
export const CHECKS = [
  ["Format", ["prettier", "--check", "--log-level=warn", "."]],
  ["Types", ["tsc", "--noEmit"]],
  ["Lint", ["eslint", "--max-warnings=0", "."]],
  ["Import cycles", ["madge", "--circular", "--no-spinner", "--extensions=ts,tsx", "--ts-config=tsconfig.json", "src"]],
  ["Unused code", ["knip"]],
];

export function runCheck(args) {
  return (
    spawnSync("npx", args, { stdio: "inherit", env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" } }).status === 0
  );
}

if (import.meta.url === `file://${process.argv[1]}`) {
  ensurePackages();
  const failed = CHECKS.filter(([, args]) => !runCheck(args)).map(([name]) => name);
  process.stdout.write(failed.length === 0 ? "All checks passed\n" : `Failed: ${failed.join(", ")}\n`);
  process.exit(failed.length === 0 ? 0 : 1);
}
