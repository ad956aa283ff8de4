// Installs and builds what is missing, so that `npm start` and `npm test` work on a fresh clone with nothing but Node.js.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { createHash } from "node:crypto";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, gzip } from "node:zlib";

const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1" };

function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: "inherit", env, ...options });
  if (result.status !== 0) {
    process.stderr.write(`\n${command} ${args.join(" ")} failed${result.error ? `: ${result.error.message}` : ""}\n`);
    process.exit(result.status ?? 1);
  }
}

/** Packages of the lock file, unless the same lock file was installed already. Output goes to standard error with `quiet`. */
export function ensurePackages({ quiet = false } = {}) {
  const hash = () => createHash("sha256").update(readFileSync("package-lock.json")).digest("hex");
  const mark = "node_modules/.nine-lines-installed";
  if (existsSync(mark) && readFileSync(mark, "utf8") === hash()) return;
  process.stderr.write("Installing packages; the database driver is compiled, which takes about two minutes …\n");
  // Not `npm ci`: it refuses a lock file without the entries of other platforms' optional packages, which not every registry serves.
  // The driver is compiled on all processors.
  run("npm", ["install", "--no-audit", "--no-fund"], {
    env: { ...env, JOBS: "max" },
    ...(quiet ? { stdio: ["ignore", 2, 2] } : {}),
  });
  writeFileSync(mark, hash());
}

function newest(folder, skip = () => false) {
  let time = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (skip(path)) continue;
    time = Math.max(time, entry.isDirectory() ? newest(path, skip) : statSync(path).mtimeMs);
  }
  return time;
}

const sources = () =>
  Math.max(
    newest("src", (path) => path.endsWith(".test.ts") || path.startsWith("src/e2e")),
    ...["package-lock.json", "tsconfig.json", "next.config.ts", "scripts/setup.mjs"].map((f) => statSync(f).mtimeMs),
  );

const ENTRIES = {
  server: "src/server/main.ts",
  "proof-worker": "src/server/workspace/proof-worker.ts",
  "jobs-worker": "src/server/jobs/jobs-worker.ts",
  "near-worker": "src/server/findings/near-worker.ts",
  "live-worker": "src/server/workspace/live-worker.ts",
  "files-worker": "src/server/sites/files-worker.ts",
  cli: "src/cli/main.ts",
  "make-demo": "src/demo/main.ts",
  practice: "src/practice/main.ts",
  bench: "src/bench/main.ts",
  "bench-typing": "src/bench/typing.ts",
};
const BUNDLES = Object.keys(ENTRIES);

/** Server, workers, command line and benchmark as single files in dist/. */
export async function ensureBundles() {
  const mark = "dist/.built";
  if (existsSync(mark) && BUNDLES.every((name) => existsSync(`dist/${name}.mjs`)) && statSync(mark).mtimeMs > sources())
    return;
  const { build } = await import("esbuild");
  mkdirSync("dist", { recursive: true });
  await build({
    entryPoints: ENTRIES,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    outdir: "dist",
    outExtension: { ".js": ".mjs" },
    external: ["better-sqlite3", "pino", "next", "liquidjs", "string-pixel-width", "playwright-core"],
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
    logLevel: "warning",
  });
  writeFileSync(mark, "");
}

/** The pages, built for production, with their files compressed beside them: as small as it gets, once and not each time one is sent. */
export async function ensurePages() {
  if (existsSync(COMPRESSED) && statSync(COMPRESSED).mtimeMs > sources()) return;
  process.stderr.write("Building the pages …\n");
  run("npx", ["next", "build"]);
  await compressFiles(".next/static");
  writeFileSync(COMPRESSED, "");
}

/** Written when all is done. */
const COMPRESSED = ".next/compressed";
const WORTH_COMPRESSING = /\.(js|css|svg|json|txt)$/;
const FORMS = [
  [".br", promisify(brotliCompress)],
  [".gz", promisify(gzip)],
];

async function compressFiles(folder) {
  const files = readdirSync(folder, { recursive: true }).filter((file) => WORTH_COMPRESSING.test(file));
  const written = files.flatMap((file) => {
    const path = join(folder, file);
    const whole = readFileSync(path);
    return FORMS.map(async ([ending, compress]) => writeFileSync(path + ending, await compress(whole)));
  });
  await Promise.all(written);
}

/** Debian's Chromium, for the browser tests. */
const APT = "/usr/bin/apt-get";

/** The web servers that redirects are proven in; without the right to install them their tests are left out, and that is said. */
export function ensureWebServers() {
  if (existsSync("/usr/sbin/nginx") && existsSync("/usr/sbin/apache2")) return;
  const isRoot = process.getuid?.() === 0;
  if (!isRoot || !existsSync(APT)) {
    process.stderr.write("nginx or Apache httpd is missing: the tests with real web servers are left out\n");
    return;
  }
  process.stderr.write("Installing nginx and Apache httpd for the tests with real web servers …\n");
  // Neither is started by being installed: the tests start their own.
  const policy = "/usr/sbin/policy-rc.d";
  const isOwn = !existsSync(policy);
  if (isOwn) writeFileSync(policy, "#!/bin/sh\nexit 101\n", { mode: 0o755 });
  const apt = (...args) =>
    spawnSync(APT, args, { stdio: "inherit", env: { ...env, DEBIAN_FRONTEND: "noninteractive" } }).status === 0;
  const isDone =
    apt("update", "-qq") && apt("install", "-y", "-qq", "--no-install-recommends", "nginx-light", "apache2");
  if (isOwn) rmSync(policy);
  if (!isDone) process.stderr.write("They could not be installed: the tests with real web servers are left out\n");
}

export function ensureChromium() {
  if (existsSync("/usr/bin/chromium")) return;
  process.stderr.write("Installing Chromium for the browser tests …\n");
  run("apt-get", ["update", "-qq"]);
  run("apt-get", ["install", "-y", "-qq", "--no-install-recommends", "chromium"], {
    env: { ...env, DEBIAN_FRONTEND: "noninteractive" },
  });
}
