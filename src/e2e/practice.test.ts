import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, readdirSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";

const folder = mkdtempSync(join(tmpdir(), "nine-lines-practice-"));
let site: ChildProcess | null = null;
afterAll(() => void site?.kill("SIGKILL"));

/** A port that nobody listens on just now. */
const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = createServer();
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => resolve((address as { port: number }).port));
    });
  });

/** Starts the site; gives the address that it says. */
function started(port: number): Promise<string> {
  const process_ = spawn(process.execPath, ["dist/practice.mjs"], {
    env: { ...process.env, NODE_ENV: "production", NINE_LINES_DATA: folder, PRACTICE_PORT: String(port) },
    stdio: ["ignore", "pipe", "inherit"],
  });
  site = process_;
  return new Promise((resolve, reject) => {
    let said = "";
    process_.stdout!.on("data", (part: Buffer) => {
      said += part.toString();
      const address = /^Practice site: (\S+)$/m.exec(said)?.[1];
      if (address) resolve(address);
    });
    process_.on("exit", (code) => reject(new Error(`The practice site ended with ${code}`)));
  });
}

const ended = (process_: ChildProcess) =>
  new Promise<number | null>((resolve) => {
    process_.removeAllListeners("exit");
    process_.on("exit", resolve);
    process_.kill("SIGTERM");
  });

describe("the practice site as a process of its own", () => {
  it("is filled once, says its address, ends when it is told to, and is as it was the next time", async () => {
    const port = await freePort();
    const address = await started(port);
    expect(address).toBe(`http://127.0.0.1:${port}/_practice`);
    const page = await (await fetch(new URL("/shelves", address))).text();
    expect(page).toContain("Rope and twine");
    expect(await ended(site!)).toBe(0);
    expect(readdirSync(folder).sort()).toEqual(["practice.db", "practice.token"]);
    await started(port);
    expect(await (await fetch(new URL("/shelves", address))).text()).toBe(page);
    expect(await ended(site!)).toBe(0);
  });
});

describe("npm start", () => {
  it("starts both, says both addresses, and ends both", async () => {
    const [port, practicePort] = [await freePort(), await freePort()];
    const env = { ...process.env, NINE_LINES_DATA: folder, PORT: String(port), PRACTICE_PORT: String(practicePort) };
    const both = spawn(process.execPath, ["scripts/start.mjs"], { env, stdio: ["ignore", "pipe", "inherit"] });
    site = both;
    await new Promise<void>((resolve, reject) => {
      let said = "";
      both.stdout.on("data", (part: Buffer) => {
        said += part.toString();
        const isSaid = [
          `ready at http://127.0.0.1:${port}`,
          `Practice site: http://127.0.0.1:${practicePort}/_practice`,
        ];
        if (isSaid.every((words) => said.includes(words))) resolve();
      });
      both.on("exit", (code) => reject(new Error(`It ended with ${code}: ${said}`)));
    });
    expect((await fetch(`http://127.0.0.1:${practicePort}/robots.txt`)).status).toBe(200);
    expect(await ended(both)).toBe(0);
    await expect(fetch(`http://127.0.0.1:${practicePort}/robots.txt`)).rejects.toThrow();
    await expect(fetch(`http://127.0.0.1:${port}/`)).rejects.toThrow();
  });
});
