// npm run check: types and lint, the import directions among it.
import { spawnSync } from "node:child_process";
import { ensurePackages } from "./setup.mjs";

ensurePackages();
const ok = [
  ["tsc", "--noEmit"],
  ["eslint", "--max-warnings=0", "."],
].map((args) => spawnSync("npx", args, { stdio: "inherit" }).status === 0);
process.exit(ok.every(Boolean) ? 0 : 1);
