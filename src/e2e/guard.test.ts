import { request } from "node:http";
import { spawn } from "node:child_process";
import { dirname } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type App, freshDatabase, startApp, startServer } from "./app";

let app: App;
beforeAll(async () => {
  app = await startApp();
}, 120_000);
afterAll(() => app.close());

/** Asks the server, under a name of one's own. */
const ask = (path: string, headers: Record<string, string> = {}, method = "GET") =>
  new Promise<{ status: number; headers: Record<string, unknown>; text: string }>((resolve, reject) => {
    const asked = request(app.url + path, { method, headers }, (answer) => {
      const chunks: Buffer[] = [];
      answer.on("data", (chunk: Buffer) => chunks.push(chunk));
      answer.on("end", () =>
        resolve({
          status: answer.statusCode!,
          headers: answer.headers,
          text: Buffer.concat(chunks).toString("latin1"),
        }),
      );
    });
    asked.on("error", reject);
    asked.end();
  });

describe("the server", () => {
  it("answers for names of this machine only", async () => {
    const { port } = new URL(app.url);
    expect((await ask("", { host: `localhost:${port}` })).status).toBe(200);
    expect((await ask("", { host: `evil.example:${port}` })).status).toBe(403);
    expect((await ask("/api/site.saveSettings", { origin: "https://evil.example" }, "POST")).status).toBe(403);
  });

  it("gives pages a policy whose nonce is another each time, and scripts bear it", async () => {
    const [one, two] = [await ask(""), await ask("")];
    const nonce = (answer: typeof one) =>
      /'nonce-([^']+)'/.exec(answer.headers["content-security-policy"] as string)![1]!;
    expect(nonce(one)).not.toBe(nonce(two));
    const scripts = [...one.text.matchAll(/<script[^>]*>/g)].map(([tag]) => tag);
    expect(scripts.length).toBeGreaterThan(3);
    for (const tag of scripts) expect(tag).toContain(`nonce="${nonce(one)}"`);
    expect(one.headers["content-security-policy"]).not.toMatch(/script-src[^;]*unsafe/);
    expect(one.headers).toMatchObject({ "x-content-type-options": "nosniff", "referrer-policy": "no-referrer" });
    expect(one.headers["content-security-policy"]).toContain("frame-ancestors 'none'");
  });

  it("compresses what is larger than a kilobyte", async () => {
    const plain = await ask("");
    const small = await ask("", { "accept-encoding": "gzip" });
    expect(small.headers["content-encoding"]).toBe("gzip");
    expect(small.text.length).toBeLessThan(plain.text.length / 2);
  });

  it("is the only one on its file", async () => {
    await expect(startServer(app.db)).rejects.toThrow(/Another server works on/);
    expect((await ask("")).status).toBe(200);
  });

  it("does not listen to all without being told so", async () => {
    const server = spawn(process.execPath, ["dist/server.mjs"], {
      env: {
        ...process.env,
        NODE_ENV: "production",
        NINE_LINES_DATA: dirname(freshDatabase()),
        PORT: "0",
        HOST: "0.0.0.0",
      },
      stdio: ["ignore", "ignore", "pipe"],
    });
    let said = "";
    server.stderr.on("data", (chunk: Buffer) => (said += chunk.toString()));
    const code = await new Promise((resolve) => server.on("exit", resolve));
    expect(code).toBe(1);
    expect(said).toMatch(/everybody who reaches this machine.*--open-to-all/s);
  });
});
