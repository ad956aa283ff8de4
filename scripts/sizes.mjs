// How much script each view loads first, gzipped, against its budget: all that its HTML names, without what comes later.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { ensurePages } from "./setup.mjs";

const KB = 1024;
/** In KB. Views that are not named here have the last. */
const BUDGETS = { "/[site]/page": 220, "/[site]/bench/page": 300, "/[site]/pages/page": 300, others: 200 };
const PAGES = ".next/server/app";

const sizes = new Map();

function sizeOf(file) {
  if (!sizes.has(file)) sizes.set(file, gzipSync(readFileSync(join(".next", file)), { level: 9 }).length);
  return sizes.get(file);
}

function manifestsIn(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return manifestsIn(path);
    return entry.name === "page_client-reference-manifest.js" ? [path] : [];
  });
}

/** A view's route and the scripts that it loads first: the framework's, and those of its layouts and page. */
function firstLoad(manifest) {
  const scope = {};
  new Function("globalThis", readFileSync(manifest, "utf8"))(scope);
  const [[route, { entryJSFiles }]] = Object.entries(scope.__RSC_MANIFEST);
  const { rootMainFiles } = JSON.parse(readFileSync(".next/build-manifest.json", "utf8"));
  return { route, files: new Set([...rootMainFiles, ...Object.values(entryJSFiles).flat()]) };
}

await ensurePages();
let isOver = false;
for (const { route, files } of manifestsIn(PAGES).map(firstLoad)) {
  const kb = [...files].reduce((sum, file) => sum + sizeOf(file), 0) / KB;
  const budget = BUDGETS[route] ?? BUDGETS.others;
  isOver ||= kb > budget;
  process.stdout.write(`${kb > budget ? "over  " : "      "}${kb.toFixed(0).padStart(4)} of ${budget} KB  ${route}\n`);
}
process.exit(isOver ? 1 : 0);
