// npm run check: format, types, lint (the import directions among it), import cycles, unused files, exports and packages, the
// views' sizes.
import { spawnSync } from "node:child_process";
import { ensurePackages } from "./setup.mjs";

/** Each check with the command that makes it; all are made, and named where they fail. */
export const CHECKS = [
  ["Format", ["npx", "prettier", "--check", "--log-level=warn", "."]],
  ["Types", ["npx", "tsc", "--noEmit"]],
  ["Lint", ["npx", "eslint", "--max-warnings=0", "."]],
  [
    "Import cycles",
    ["npx", "madge", "--circular", "--no-spinner", "--extensions=ts,tsx", "--ts-config=tsconfig.json", "src"],
  ],
  ["Unused code", ["npx", "knip"]],
  ["Sizes of the views", [process.execPath, "scripts/sizes.mjs"]],
];

export function runCheck([command, ...args]) {
  return (
    spawnSync(command, args, { stdio: "inherit", env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" } }).status === 0
  );
}

if (import.meta.url === `file://${process.argv[1]}`) {
  ensurePackages();
  const failed = CHECKS.filter(([, args]) => !runCheck(args)).map(([name]) => name);
  process.stdout.write(failed.length === 0 ? "All checks passed\n" : `Failed: ${failed.join(", ")}\n`);
  process.exit(failed.length === 0 ? 0 : 1);
}
