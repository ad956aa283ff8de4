// npm run check: format, types, lint (the import directions among it), import cycles, unused files, exports and packages, the
// views' sizes.
import { spawn } from "node:child_process";
import { availableParallelism } from "node:os";
import { ensurePackages, ensurePages } from "./setup.mjs";

/** Each check with the command that makes it; all are made, and named where they fail. The longest come first. */
const CHECKS = [
  ["Lint", ["npx", "eslint", "--max-warnings=0", "."]],
  ["Types", ["npx", "tsc", "--noEmit"]],
  ["Format", ["npx", "prettier", "--check", "--log-level=warn", "."]],
  [
    "Import cycles",
    ["npx", "madge", "--circular", "--no-spinner", "--extensions=ts,tsx", "--ts-config=tsconfig.json", "src"],
  ],
  ["Unused code", ["npx", "knip"]],
  ["Sizes of the views", [process.execPath, "scripts/sizes.mjs"]],
];

/** Makes all checks, as many at a time as there are processors, and prints what each said when it ended. Gives the names of those that passed and failed. */
export async function runChecks() {
  // The sizes are those of the pages, which would be built in the middle of the other checks.
  await ensurePages();
  const { default: PQueue } = await import("p-queue");
  const queue = new PQueue({ concurrency: availableParallelism() });
  const made = await queue.addAll(
    CHECKS.map(
      ([name, command]) =>
        () =>
          runCheck(name, command),
    ),
  );
  const names = CHECKS.map(([name]) => name);
  return { passed: names.filter((_, i) => made[i]), failed: names.filter((_, i) => !made[i]) };
}

function runCheck(name, [command, ...args]) {
  const said = [];
  const child = spawn(command, args, {
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk) => said.push(chunk));
  return new Promise((resolve) => {
    child.on("error", (error) => said.push(Buffer.from(`${error.message}\n`)));
    child.on("close", (status) => {
      process.stdout.write(`\n— ${name}\n${Buffer.concat(said).toString()}`);
      resolve(status === 0);
    });
  });
}

if (import.meta.url === `file://${process.argv[1]}`) {
  ensurePackages();
  const { failed } = await runChecks();
  process.stdout.write(failed.length === 0 ? "All checks passed\n" : `Failed: ${failed.join(", ")}\n`);
  process.exit(failed.length === 0 ? 0 : 1);
}
