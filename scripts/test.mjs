// npm test: installs and builds what is missing, then all checks, unit tests and browser tests; closes with what failed, by name,
// and one line of figures, so that the last lines of a long output say it all.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { relative } from "node:path";
import { runChecks } from "./check.mjs";
import { ensureBundles, ensurePackages, ensurePages } from "./setup.mjs";

// While packages are compiled.
const programs = spawn(process.execPath, ["scripts/ensure-programs.mjs"], { stdio: "inherit" });
const areProgramsThere = new Promise((resolve) => programs.on("close", (status) => resolve(status === 0)));
ensurePackages();
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1" };
let passed = 0;
/** What failed, a text each: the check's or the test's name, and for a test what it said (a property's seed stands there). */
const failures = [];
const title = (name) => process.stdout.write(`\n— ${name}\n`);

await ensureBundles();
await ensurePages();
if (!(await areProgramsThere)) process.exit(1);
const checks = await runChecks();
passed += checks.passed.length;
failures.push(...checks.failed);

const LONGEST_MESSAGE = 1500;

/** The tests of a report that failed, and the files that could not be loaded. */
function failuresOf({ testResults }) {
  return testResults.flatMap(({ name, message, assertionResults }) => {
    const file = relative(process.cwd(), name);
    const tests = assertionResults.filter(({ status }) => status === "failed");
    if (tests.length === 0) return message ? [`${file}\n${message.slice(0, LONGEST_MESSAGE)}`] : [];
    return tests.map(
      (test) => `${file} › ${test.fullName}\n${test.failureMessages.join("\n").slice(0, LONGEST_MESSAGE)}`,
    );
  });
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
  const failedHere = result === null ? [] : failuresOf(result);
  failures.push(...failedHere);
  if (ran.status !== 0 && failedHere.length === 0) failures.push(`${name}: ended with status ${ran.status}`);
}
for (const failure of failures) process.stdout.write(`\nFailed: ${failure}\n`);
process.stdout.write(`\n${passed} passed, ${failures.length} failed\n`);
process.exit(failures.length === 0 ? 0 : 1);
