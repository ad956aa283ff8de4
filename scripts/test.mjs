// npm test: installs and builds what is missing, then types, lint, unit tests and browser tests; closes with one line of figures.
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { ensureBundles, ensureChromium, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1" };
const run = (name, command, args) => {
  process.stdout.write(`\n— ${name}\n`);
  return spawnSync(command, args, { stdio: "inherit", env }).status === 0;
};
let passed = 0;
let failed = 0;
const count = (ok) => (ok ? passed++ : failed++);

await ensureBundles();
ensurePages();
ensureChromium();
count(run("Types", "npx", ["tsc", "--noEmit"]));
count(run("Lint", "npx", ["eslint", "--max-warnings=0", "."]));
for (const [name, config] of [
  ["Unit tests", "vitest.config.ts"],
  ["Browser tests", "vitest.e2e.config.ts"],
]) {
  const report = `test-results/${name.split(" ")[0].toLowerCase()}.json`;
  rmSync(report, { force: true });
  const ok = run(name, "npx", [
    "vitest",
    "run",
    "--config",
    config,
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${report}`,
    "--silent=passed-only",
  ]);
  const result = existsSync(report) ? JSON.parse(readFileSync(report, "utf8")) : null;
  passed += result?.numPassedTests ?? 0;
  failed += result?.numFailedTests ?? 0;
  if (!ok && !result?.numFailedTests) failed++;
}
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
