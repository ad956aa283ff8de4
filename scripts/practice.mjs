import { spawn } from "node:child_process";
import { ensureBundles, ensurePackages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
const site = spawn(process.execPath, ["dist/practice.mjs"], {
  stdio: "inherit",
  env: { ...process.env, NODE_ENV: "production" },
});
process.on("SIGINT", () => site.kill("SIGINT"));
process.on("SIGTERM", () => site.kill("SIGTERM"));
site.on("exit", (code, signal) => process.exit(signal ? 1 : (code ?? 0)));
