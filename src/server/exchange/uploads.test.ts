import { existsSync, mkdtempSync, readdirSync, utimesSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { cleanUploads, forgetFile, KEPT_FOR_MS, receiveFile, uploadedFile } from "./uploads";

let folder = "";
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-up-"));
  vi.stubEnv("NINE_LINES_DATA", folder);
});
afterEach(() => vi.unstubAllEnvs());

const body = (text: string) => new Response(text).body!;
const files = () => readdirSync(join(folder, "uploads"));

describe("a received file", () => {
  it("is there under its token until it is forgotten", async () => {
    const token = await receiveFile(body("id\n1\n"));
    expect(existsSync(uploadedFile(token))).toBe(true);
    forgetFile(token);
    expect(() => uploadedFile(token)).toThrow(/has expired/);
    forgetFile(token);
  });

  it("is refused beyond the limit, in words, and nothing of it is kept", async () => {
    vi.stubEnv("NINE_LINES_MOST_UPLOAD", "1");
    await expect(receiveFile(body("x".repeat(1024 * 1024 + 1)))).rejects.toThrow(
      /larger than 1 MB.*NINE_LINES_MOST_UPLOAD/s,
    );
    expect(files()).toEqual([]);
    await receiveFile(body("x".repeat(1024 * 1024)));
    expect(files()).toHaveLength(1);
  });
});

describe("cleaning up", () => {
  it("keeps what jobs wait for, and at first removes all else", async () => {
    const [wanted, left] = [await receiveFile(body("a")), await receiveFile(body("b"))];
    cleanUploads(new Set([wanted]), 0);
    expect(files()).toEqual([`${wanted}.csv`]);
    expect(() => uploadedFile(left)).toThrow();
  });

  it("removes a file of this very millisecond, too", async () => {
    const left = await receiveFile(body("a"));
    utimesSync(uploadedFile(left), 1_800_000_000.0009, 1_800_000_000.0009);
    cleanUploads(new Set(), 0, 1_800_000_000_000);
    expect(files()).toEqual([]);
  });

  it("removes what is a day old, later on", async () => {
    const [old, young] = [await receiveFile(body("a")), await receiveFile(body("b"))];
    const time = (Date.now() - KEPT_FOR_MS - 1000) / 1000;
    utimesSync(uploadedFile(old), time, time);
    cleanUploads(new Set(), KEPT_FOR_MS);
    expect(files()).toEqual([`${young}.csv`]);
  });

  it("has nothing to do where no file ever came", () => {
    expect(() => cleanUploads(new Set(), 0)).not.toThrow();
  });
});
