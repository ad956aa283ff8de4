import { spawn } from "node:child_process";
import { ensureBundles, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
ensurePages();
const server = spawn(process.execPath, ["dist/server.mjs", ...process.argv.slice(2)], {
  stdio: "inherit",
  env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
});
// In a terminal Ctrl-C reaches the server too, and it takes only the first; this process waits for its clean end.
process.on("SIGINT", () => server.kill("SIGINT"));
process.on("SIGTERM", () => server.kill("SIGTERM"));
server.on("exit", (code, signal) => process.exit(signal ? 1 : (code ?? 0)));
