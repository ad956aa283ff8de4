import { spawn } from "node:child_process";
import { ensureBundles, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
ensurePages();
const server = spawn(process.execPath, ["dist/server.mjs"], { stdio: "inherit", env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" } });
// Ctrl-C reaches the server too; this process only waits for its clean end.
process.on("SIGINT", () => {});
process.on("SIGTERM", () => server.kill("SIGTERM"));
server.on("exit", (code, signal) => process.exit(signal ? 1 : (code ?? 0)));
