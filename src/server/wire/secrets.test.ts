import { mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { isFromEnvironment, readSecret, removeSecret, secretVariable, writeSecret } from "./secrets";

const BASE = "https://site.example/api";

let folder: string;
let database: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "nine-lines-secrets-"));
  database = join(folder, "rope-shop.db");
});
afterEach(() => {
  delete process.env[secretVariable(database)];
  rmSync(folder, { recursive: true, force: true });
});

describe("a secret", () => {
  it("is in a file of its own that only its owner reads, for one origin", () => {
    expect(readSecret(database, BASE)).toBeNull();
    writeSecret(database, BASE, "one");
    writeSecret(database, BASE, "s3cret ü");
    expect(readSecret(database, BASE)).toBe("s3cret ü");
    expect(readSecret(database, "https://site.example/other/api")).toBe("s3cret ü");
    expect(readSecret(database, "https://elsewhere.example/api")).toBeNull();
    expect(statSync(join(folder, "rope-shop.secret")).mode & 0o777).toBe(0o600);
    expect(readFileSync(join(folder, "rope-shop.secret"), "utf8")).toContain("s3cret ü");
    removeSecret(database);
    expect(readSecret(database, BASE)).toBeNull();
  });

  it("comes from a variable that is named after the site, where no file has it", () => {
    expect(secretVariable(database)).toBe("NINE_LINES_SECRET_ROPE_SHOP");
    process.env["NINE_LINES_SECRET_ROPE_SHOP"] = "from outside";
    expect([readSecret(database, BASE), isFromEnvironment(database)]).toEqual(["from outside", true]);
    writeSecret(database, BASE, "typed in");
    expect([readSecret(database, BASE), isFromEnvironment(database)]).toEqual(["typed in", false]);
  });

  it("is one line", () => {
    expect(() => writeSecret(database, BASE, "one\r\nx-other: two")).toThrow(/one line/);
  });
});
