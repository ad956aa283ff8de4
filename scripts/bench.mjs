import { spawnSync } from "node:child_process";
import { ensureBundles, ensurePackages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
process.exit(
  spawnSync(process.execPath, ["dist/bench.mjs", ...process.argv.slice(2)], { stdio: "inherit" }).status ?? 1,
);
