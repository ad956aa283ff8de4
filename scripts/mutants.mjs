// npm run mutants -- [--seed N] [--count N] [files …]: puts small faults into the sources, one at a time, and says which of them the unit tests notice.
import { spawn } from "node:child_process";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import ts from "typescript";
import { ensurePackages } from "./setup.mjs";

ensurePackages();

const ROOMS = [
  "src/core/lines",
  "src/core/rules",
  "src/core/slugs",
  "src/core/proof",
  "src/core/plan",
  "src/core/checks",
  "src/store",
  "src/server/runs/apply-run.ts",
];
const option = (name, otherwise) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? otherwise : Number(process.argv[at + 1]);
};
const seed = option("seed", 1);
const count = option("count", 60);
const named = process.argv.slice(2).filter((arg) => arg.endsWith(".ts"));

const BINARY = new Map([
  [ts.SyntaxKind.LessThanToken, "<="],
  [ts.SyntaxKind.LessThanEqualsToken, "<"],
  [ts.SyntaxKind.GreaterThanToken, ">="],
  [ts.SyntaxKind.GreaterThanEqualsToken, ">"],
  [ts.SyntaxKind.EqualsEqualsEqualsToken, "!=="],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, "==="],
  [ts.SyntaxKind.AmpersandAmpersandToken, "||"],
  [ts.SyntaxKind.BarBarToken, "&&"],
  [ts.SyntaxKind.PlusToken, "-"],
  [ts.SyntaxKind.MinusToken, "+"],
]);

/** The faults that can be put into a file, each a stretch of it and what stands there then. */
function faultsOf(file) {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  const found = [];
  const put = (node, text, what) => found.push({ file, from: node.getStart(source), to: node.getEnd(), text, what });
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isInterfaceDeclaration(node)) return;
    if (ts.isBinaryExpression(node) && BINARY.has(node.operatorToken.kind)) {
      const isText = [node.left, node.right].some(
        (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
      );
      if (!isText || node.operatorToken.kind !== ts.SyntaxKind.PlusToken)
        put(node.operatorToken, BINARY.get(node.operatorToken.kind), "operator");
    } else if (ts.isNumericLiteral(node) && /^\d{1,4}$/.test(node.text) && !ts.isEnumMember(node.parent))
      put(node, String(Number(node.text) + 1), "number");
    else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, "false", "truth");
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, "true", "truth");
    else if (ts.isIfStatement(node)) put(node.expression, `!(${node.expression.getText(source)})`, "condition");
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

function filesOf(path) {
  if (!existsSync(path)) throw new Error(`There is no ${path}`);
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .filter((name) => /\.ts$/.test(name) && !/\.(test|d)\.ts$/.test(name))
    .map((name) => join(path, name));
}

/** Whole numbers below a bound, the same for the same seed. */
function random(state) {
  return (bound) => {
    state = (Math.imul(state ^ (state >>> 15), 0x2c1b3c6d) + 0x9e3779b9) | 0;
    return ((state ^ (state >>> 13)) >>> 0) % bound;
  };
}

/** How long tests may take, in milliseconds: a fault that makes a loop endless is noticed by it. */
const PATIENCE = { nearest: 180_000, all: 900_000 };

/** Whether a test fails, or does not end: those beside the file are asked first, then all that rest on it. */
async function isNoticed(file) {
  const nearest = ["run", "--bail", "1", "--testTimeout=20000", `${dirname(file)}/`];
  if (hasTests(dirname(file)) && (await fails(nearest, PATIENCE.nearest))) return true;
  return fails(["related", "--run", "--bail", "1", "--testTimeout=60000", file], PATIENCE.all);
}

const hasTests = (folder) => readdirSync(folder).some((name) => name.endsWith(".test.ts"));

/** Run as a group of its own: an endless worker outlives who started it. */
function fails(args, patience) {
  const options = { stdio: "ignore", detached: true };
  const tests = spawn(
    process.execPath,
    ["node_modules/vitest/vitest.mjs", ...args, "--silent", "--reporter=dot"],
    options,
  );
  return new Promise((resolve) => {
    const end = () => {
      try {
        process.kill(-tests.pid, "SIGKILL");
      } catch {
        // All of the group have ended.
      }
    };
    const timer = setTimeout(end, patience);
    tests.on("exit", (status) => {
      clearTimeout(timer);
      end();
      resolve(status !== 0);
    });
  });
}

const faults = (named.length > 0 ? named : ROOMS.flatMap(filesOf)).flatMap(faultsOf);
const next = random(seed);
const sample = [];
while (sample.length < Math.min(count, faults.length)) sample.push(...faults.splice(next(faults.length), 1));

const table = new Map();
let killed = 0;
for (const [i, { file, from, to, text, what }] of sample.entries()) {
  const original = readFileSync(file, "utf8");
  const room = dirname(file);
  const row = table.get(room) ?? { killed: 0, all: 0 };
  table.set(room, row);
  row.all++;
  let noticed;
  try {
    writeFileSync(file, original.slice(0, from) + text + original.slice(to));
    noticed = await isNoticed(file);
  } finally {
    writeFileSync(file, original);
  }
  if (noticed) {
    killed++;
    row.killed++;
    continue;
  }
  const line = original.slice(0, from).split("\n").length;
  const shown = original.split("\n")[line - 1].trim();
  process.stdout.write(
    `alive ${i + 1}: ${file}:${line} ${what} “${original.slice(from, to)}” → “${text}” in ${shown}\n`,
  );
}
for (const [room, { killed: own, all }] of table) process.stdout.write(`${room.padEnd(28)} ${own} of ${all}\n`);
process.stdout.write(
  `${killed} of ${sample.length} noticed (${Math.round((100 * killed) / sample.length)} %), seed ${seed}\n`,
);
