import { spawnSync } from "node:child_process";
import { ensureBundles, ensureChromium, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
await ensurePages();
ensureChromium();
process.exit(
  spawnSync(process.execPath, ["dist/bench-typing.mjs", ...process.argv.slice(2)], { stdio: "inherit" }).status ?? 1,
);
