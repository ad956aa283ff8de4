import { spawn } from "node:child_process";
import { ensureBundles, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
await ensurePages();

const own = process.argv.slice(2);
const withPractice = !own.includes("--without-practice");
const begin = (bundle, args) =>
  spawn(process.execPath, [bundle, ...args], {
    stdio: "inherit",
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      // A demo site that is made is connected with it.
      NINE_LINES_PRACTICE: withPractice ? "1" : "0",
    },
  });
const server = begin(
  "dist/server.mjs",
  own.filter((arg) => arg !== "--without-practice"),
);
// The site to practise on goes with it: where it cannot begin, it says so, and Nine Lines goes on without it.
const practice = withPractice ? begin("dist/practice.mjs", []) : null;
// In a terminal Ctrl-C reaches both, and they take only the first; this process waits for their clean end.
for (const signal of ["SIGINT", "SIGTERM"])
  process.on(signal, () => {
    server.kill(signal);
    practice?.kill(signal);
  });
server.on("exit", (code, signal) => {
  const end = () => process.exit(signal ? 1 : (code ?? 0));
  if (!practice || practice.exitCode !== null || practice.signalCode !== null) return end();
  practice.on("exit", end);
  practice.kill("SIGTERM");
});
