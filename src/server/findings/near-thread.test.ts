import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "esbuild";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { nearHere } from "./near-finder";
import { nearThread } from "./near-thread";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-near-"));
const real = join(folder, "near.mjs");
/** Threads that do not do what they are asked for. */
const BROKEN = {
  dies: `import { parentPort } from "node:worker_threads"; parentPort.on("message", () => process.exit(1));`,
  throws: `import { parentPort } from "node:worker_threads"; parentPort.on("message", () => { throw new Error("odd"); });`,
  "says nothing": `import { parentPort } from "node:worker_threads"; parentPort.on("message", () => {});`,
};
const fileOf = (name: string) => join(folder, `${name.replace(" ", "-")}.mjs`);

beforeAll(async () => {
  await build({
    entryPoints: [join(process.cwd(), "src/server/findings/near-worker.ts")],
    bundle: true,
    platform: "node",
    format: "esm",
    outfile: real,
    logLevel: "silent",
  });
  for (const [name, source] of Object.entries(BROKEN)) writeFileSync(fileOf(name), source);
});
afterAll(() => rmSync(folder, { recursive: true }));

const texts = [
  "Bronze mooring cleat for the foredeck",
  "Bronze mooring cleat for the afterdeck",
  "Quite another text of some words",
  "",
];
const wording = { subject: "title", year: 2026 } as const;
const alive = () => {};
const here = nearHere({ texts, share: 0.8, wording }).found(alive);

describe("a search in a thread of its own", () => {
  it("finds what one here finds, several at a time", () => {
    const find = nearThread(real);
    const searches = [
      find({ texts, share: 0.8, wording }),
      find({ texts, share: 0.8, wording: null }),
      find({ texts: [], share: 0.8, wording: null }),
    ];
    expect(searches[0]!.found(alive)).toEqual(here);
    expect(searches[1]!.found(alive)).toEqual({ partners: here.partners, wording: null });
    expect(searches[2]!.found(alive).partners).toHaveLength(0);
  });

  it.each(Object.keys(BROKEN))("is made here where the thread %s, and the wait has an end", (name) => {
    const find = nearThread(fileOf(name), { silent: 300 });
    for (let round = 0; round < 3; round++) expect(find({ texts, share: 0.8, wording }).found(alive)).toEqual(here);
  });

  it("ends for who no longer waits, and the next one is answered", () => {
    const find = nearThread(real);
    const gone = new Error("nobody waits");
    expect(() =>
      find({ texts, share: 0.8, wording: null }).found(() => {
        throw gone;
      }),
    ).toThrow(gone);
    const left = find({ texts, share: 0.8, wording: null });
    left.abandon();
    expect(find({ texts, share: 0.8, wording }).found(alive)).toEqual(here);
  });

  it("says what is wrong with the texts in its own words", () => {
    const find = nearThread(real);
    // A text that is none was what ended the thread, and hung the one that waited.
    expect(() =>
      find({ texts: [undefined as unknown as string, ...texts], share: 0.8, wording: null }).found(alive),
    ).toThrow(TypeError);
    expect(find({ texts, share: 0.8, wording }).found(alive)).toEqual(here);
  });
});
