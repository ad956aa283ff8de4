import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { type AddressInfo } from "node:net";
import { gzipSync } from "node:zlib";
import { afterEach, describe, expect, it } from "vitest";
import { isPrivateAddress, isPrivateBase, publicLookup } from "./private-addresses";
import { jsonOf, SiteClient } from "./site-client";
import { type WireError } from "./wire-error";

const LIMITS = { perSecond: 1000, atOnce: 4, timeoutSeconds: 5, giveUpMinutes: 0.2 };
const SECRET = "a-secret-of-the-tests";

const ends: (() => void | Promise<void>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0)) await end();
});

/** A site that answers as it is told; gives its address. */
async function siteOf(answer: (request: IncomingMessage, response: ServerResponse) => void): Promise<string> {
  const server = createServer(answer);
  await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
  ends.push(() => {
    server.closeAllConnections();
    server.close();
  });
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

function clientOf(
  base: string,
  { limits = {}, signal }: { limits?: Partial<typeof LIMITS>; signal?: AbortSignal } = {},
) {
  const again: WireError[] = [];
  const client = new SiteClient(
    { base, headers: { authorization: "Bearer {secret}" }, limits: { ...LIMITS, ...limits } },
    { secret: SECRET, again: (error) => again.push(error), ...(signal && { signal }) },
  );
  ends.push(() => client.close());
  return { client, again };
}

const troubleWith = async (asked: Promise<unknown>): Promise<WireError> =>
  asked.then(
    () => {
      throw new Error("There was no trouble");
    },
    (error: unknown) => error as WireError,
  );

describe("a site’s interface", () => {
  it("is asked with the secret, and answers JSON", async () => {
    const base = await siteOf((request, response) =>
      response.end(JSON.stringify({ said: request.headers.authorization, at: request.url })),
    );
    const { body } = await clientOf(base).client.read(`${base}/pages?limit=1`);
    expect(body).toEqual({ said: `Bearer ${SECRET}`, at: "/pages?limit=1" });
  });

  it("that says what it was sent does not have the secret told: its words are kept, and shown", async () => {
    const base = await siteOf((request, response) =>
      response.writeHead(422).end(JSON.stringify({ detail: `I was sent ${request.headers.authorization}` })),
    );
    const error = await troubleWith(clientOf(base).client.ask({ method: "GET", url: `${base}/x` }));
    expect(error.message).toBe(`GET ${base}/x is answered with 422: I was sent Bearer {secret}`);
    expect(JSON.stringify(error.cause)).not.toContain(SECRET);
  });

  it("without its secret is not asked at all", () => {
    const connection = { base: "http://127.0.0.1:9", headers: { authorization: "Bearer {secret}" }, limits: LIMITS };
    expect(() => new SiteClient(connection, { secret: null })).toThrow(/Type it in/);
  });

  it("that leads elsewhere is not followed there: the secret stays at its origin", async () => {
    const heard: (string | undefined)[] = [];
    const other = await siteOf((request, response) => {
      heard.push(request.headers.authorization);
      response.end("{}");
    });
    const base = await siteOf((request, response) => {
      const onward = request.url === "/away" ? `${other}/taken` : "/here";
      if (request.url === "/here") response.end('{"here":true}');
      else response.writeHead(302, { location: onward }).end();
    });
    const { client } = clientOf(base);
    const error = await troubleWith(client.read(`${base}/away`));
    expect(error.trouble).toBe("elsewhere");
    expect(error.message).toContain("secret was not sent");
    expect((await troubleWith(client.read(`${other}/at-once`))).trouble).toBe("elsewhere");
    expect(heard).toEqual([]);
    expect((await client.read(`${base}/near`)).body).toEqual({ here: true });
    const written = await troubleWith(client.ask({ method: "PUT", url: `${base}/near`, body: {} }));
    expect(written.message).toContain("not followed");
  });

  it("that is busy is left alone as long as it asks for, and asked again", async () => {
    const at: number[] = [];
    const base = await siteOf((_, response) => {
      at.push(Date.now());
      if (at.length === 1) response.writeHead(429, { "retry-after": "1" }).end('{"detail":"Slowly"}');
      else response.end("{}");
    });
    const { client, again } = clientOf(base);
    await client.read(`${base}/`);
    expect(again.map(({ trouble, afterMs }) => [trouble, afterMs])).toEqual([["busy", 1000]]);
    expect(again[0]!.message).toContain("429: Slowly");
    expect(at[1]! - at[0]!).toBeGreaterThanOrEqual(990);
  });

  it("that fails for longer than is said is given up, in the site’s words", async () => {
    let asked = 0;
    const base = await siteOf((_, response) => {
      asked++;
      response.writeHead(500).end("<html><title>Out of order</title>");
    });
    const error = await troubleWith(clientOf(base, { limits: { giveUpMinutes: 0.02 } }).client.read(`${base}/`));
    expect([error.trouble, error.message]).toEqual(["broken", `GET ${base}/ is answered with 500: Out of order`]);
    expect(asked).toBeGreaterThan(1);
  });

  it.each([
    ["does not know the secret", 401, "shut"],
    ["has no such page", 404, "missing"],
    ["has another version by now", 412, "changed"],
    ["refuses", 422, "refused"],
  ] as const)("that %s is not asked again", async (_, status, trouble) => {
    let asked = 0;
    const base = await siteOf((_request, response) => {
      asked++;
      response.writeHead(status).end('{"error":{"message":"No"}}');
    });
    const error = await troubleWith(clientOf(base).client.read(`${base}/`));
    expect([error.trouble, asked]).toEqual([trouble, 1]);
    expect(error.message).toMatch(/: No$/);
  });

  it("that does not answer in time, or breaks off, says so", async () => {
    const silent = await siteOf(() => {});
    const late = await troubleWith(
      clientOf(silent, { limits: { timeoutSeconds: 0.2 } }).client.ask({ method: "GET", url: `${silent}/x` }),
    );
    expect([late.trouble, late.message]).toEqual(["late", `GET ${silent}/x is not answered within 0.2 seconds`]);
    const broken = await siteOf((_, response) => {
      response.writeHead(200, { "content-length": "100" });
      response.write("{", () => response.destroy());
    });
    expect((await troubleWith(clientOf(broken).client.ask({ method: "GET", url: `${broken}/x` }))).trouble).toBe(
      "unreachable",
    );
    const nobody = await troubleWith(
      clientOf("http://127.0.0.1:9").client.ask({ method: "GET", url: "http://127.0.0.1:9/" }),
    );
    expect(nobody.message).toMatch(/ECONNREFUSED|bad port/);
  });

  it("is asked no more when the work is stopped, and a request under way is ended", async () => {
    const base = await siteOf(() => {});
    const stop = new AbortController();
    const { client } = clientOf(base, { signal: stop.signal });
    const asked = troubleWith(client.read(`${base}/`));
    stop.abort();
    expect((await asked).name).toBe("Cancelled");
    expect((await troubleWith(client.read(`${base}/`))).name).toBe("Cancelled");
  });

  it("is asked no faster, and no more at once, than is said", async () => {
    let now = 0;
    let most = 0;
    const at: number[] = [];
    const base = await siteOf((_, response) => {
      most = Math.max(most, ++now);
      at.push(Date.now());
      setTimeout(() => {
        now--;
        response.end("{}");
      }, 30);
    });
    const { client } = clientOf(base, { limits: { perSecond: 40, atOnce: 3 } });
    await Promise.all(Array.from({ length: 40 }, () => client.read(`${base}/`)));
    expect(most).toBeLessThanOrEqual(3);
    // Forty at forty a second: the last begins almost a second behind the first.
    expect(at.at(-1)! - at[0]!).toBeGreaterThan(800);
  });
});

describe("rubbish", () => {
  const answer = (text: string, type = "application/json") => ({
    text,
    url: "http://site.example/x",
    header: () => type,
  });
  const said = (text: string, type?: string) => {
    try {
      jsonOf(answer(text, type));
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  };

  it("is told in words with its address and how it begins", () => {
    expect(said("<!doctype html><p>Log in", "text/html")).toBe(
      "http://site.example/x answers an HTML page and no JSON: “<!doctype html><p>Log in”",
    );
    expect(said('{"pages":[{"id"')).toMatch(
      /^http:\/\/site\.example\/x answers something that is no JSON \(.*\): “\{"pages":\[\{"id"”$/,
    );
    expect(said("  ")).toContain("answers nothing");
    expect(said("[".repeat(1_000_000) + "]".repeat(1_000_000))).toContain("nested more than 200 levels deep");
    expect(said('{"a":[]}')).toBeNull();
  });

  it("that is too large is not read to its end", async () => {
    const part = gzipSync(Buffer.alloc(10_000_000, " "));
    const base = await siteOf((_, response) => {
      response.writeHead(200, { "content-encoding": "gzip" });
      response.end(Buffer.concat(Array.from({ length: 100 }, () => part)));
    });
    const error = await troubleWith(clientOf(base).client.ask({ method: "GET", url: `${base}/` }));
    expect(error.message).toContain("more than 64 MB");
  });
});

describe("addresses of one’s own network", () => {
  it("are told from those of the wide world", () => {
    for (const own of [
      "127.0.0.1",
      "10.1.2.3",
      "172.16.0.1",
      "192.168.5.5",
      "169.254.169.254",
      "::1",
      "fd00::1",
      "fe80::1",
      "::ffff:127.0.0.1",
      "0.0.0.0",
    ])
      expect(isPrivateAddress(own), own).toBe(true);
    for (const other of ["93.184.216.34", "172.32.0.1", "2606:2800::1", "::ffff:93.184.216.34"])
      expect(isPrivateAddress(other), other).toBe(false);
    expect(isPrivateBase("http://[::1]:80/api")).toBe(true);
    expect(isPrivateBase("http://localhost:4910")).toBe(true);
    expect(isPrivateBase("https://site.example")).toBe(false);
  });

  it("are not come to by a name of the wide world", async () => {
    const said = await new Promise<string>((resolve) =>
      publicLookup("localhost", {}, (error) => resolve(error?.message ?? "")),
    );
    expect(said).toMatch(/leads to .*, an address of this machine’s own network/);
  });
});
