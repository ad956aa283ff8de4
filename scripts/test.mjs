// npm test: installs and builds what is missing, then all checks, unit tests and browser tests; closes with one line of figures.
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { CHECKS, runCheck } from "./check.mjs";
import { ensureBundles, ensureChromium, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1" };
let passed = 0;
let failed = 0;
const title = (name) => process.stdout.write(`\n— ${name}\n`);

await ensureBundles();
ensurePages();
ensureChromium();
for (const [name, args] of CHECKS) {
  title(name);
  if (runCheck(args)) passed++;
  else failed++;
}
for (const [name, config] of [
  ["Unit tests", "vitest.config.ts"],
  ["Browser tests", "vitest.e2e.config.ts"],
]) {
  title(name);
  const report = `test-results/${name.split(" ")[0].toLowerCase()}.json`;
  rmSync(report, { force: true });
  const reporters = ["--reporter=default", "--reporter=json", `--outputFile.json=${report}`, "--silent=passed-only"];
  const ran = spawnSync("npx", ["vitest", "run", "--config", config, ...reporters], { stdio: "inherit", env });
  const result = existsSync(report) ? JSON.parse(readFileSync(report, "utf8")) : null;
  passed += result?.numPassedTests ?? 0;
  failed += result?.numFailedTests ?? 0;
  if (ran.status !== 0 && !result?.numFailedTests) failed++;
}
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
