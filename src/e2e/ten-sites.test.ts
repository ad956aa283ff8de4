import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ALL_PAGES } from "../core/items/query";
import { newKind } from "../core/design/new-kind";
import { endServer, freshDatabase, startServer } from "./app";
import { ask, send, settled } from "./calls";

/** A word for each site that none of the others has, its language, and how wide its titles may be. */
const SITES = [
  ["Aldersgate", "en"],
  ["Birkenhain", "de"],
  ["Chêneraie", "fr"],
  ["Drevlyana", "ru"],
  ["Encinares", "es"],
  ["Furulund", "sv"],
  ["Gelderloos", "nl"],
  ["Hazelnoot", "nl"],
  ["İncirli", "tr"],
].map(([word, language], i) => ({ word: word!, language: language!, width: 400 + i, kind: `thing-${i}` }));

let server: Awaited<ReturnType<typeof startServer>>;
const urls: string[] = [];
const origin = () => new URL("/", server.url).href;

async function makeSite({ word, language, width, kind }: (typeof SITES)[number]): Promise<string> {
  const made = await send<{ id: string }>(origin(), "api/sites.make", {
    name: `${word} & Co`,
    baseUrl: `https://site${width}.example`,
    language,
  });
  const url = new URL(made.body.id, origin()).href;
  const seen = (await ask(url, "site.state", {})).site!;
  const own = { ...newKind(kind, []), one: `${word} thing`, many: `${word} things` };
  const limits = { title: { surfaces: ["own"] } };
  const surface = {
    id: "own",
    label: `Seen at ${word}`,
    font: "arimo-400" as const,
    size: 20,
    width,
    lines: 1,
    total: null,
    mark: "…",
  };
  await ask(url, "site.saveSettings", { site: { ...seen, kinds: [own], limits, surfaces: [surface] }, seen });
  const rows = Array.from({ length: 3 }, (_, i) => `1${i},/p${i},${word} page ${i},Old ${word} ${i},${kind}`);
  const { body } = await send<{ token: string }>(
    url,
    "/api/files/pages?name=a.csv",
    ["id,address,name,title,kind", ...rows].join("\n"),
    { headers: { "content-type": "application/octet-stream" } },
  );
  const targets = ["id", "address", "name", "title", "kind"] as const;
  await ask(url, "exchange.bringIn", {
    token: body.token,
    name: "a.csv",
    mapping: { targets: [...targets], kind: "product" },
    byHand: "none",
    areAll: false,
    rows: null,
  });
  await settled(url);
  await ask(url, "designs.save", { kind, design: { base: { title: `{name} from ${word}` }, rules: [] }, seen: 0 });
  return url;
}

beforeAll(async () => {
  server = await startServer(freshDatabase());
  for (const site of SITES) urls.push(await makeSite(site));
}, 300_000);
afterAll(async () => {
  await endServer(server.server);
});

const stretch = { from: 0, count: 50 };
const EVERY = { ...ALL_PAGES, side: "draft", group: "kind" };

/** All that can be looked at of a site. */
async function looked(url: string, kind: string): Promise<string> {
  const asked: (readonly [string, unknown?])[] = [
    ["/api/site.state", {}],
    ["/api/bench.board", {}],
    ["/api/items.list", { query: EVERY, columns: ["name"], ...stretch }],
    ["/api/bench.fields", { kind }],
    ["/api/review.summary", {}],
    ["/api/review.list", { group: "reworded", ...stretch }],
    ["/api/keywords.matrix", {}],
    ["/api/exchange.imports", {}],
    ["/api/files/lines"],
    ["/api/out/items"],
  ];
  const answers = await Promise.all(asked.map(([path, body]) => send(url, path, body)));
  return answers.map(({ text }) => text).join("\n");
}

describe("ten sites at once", () => {
  it("have each their own language, limits, kinds, pages and lines, and nothing of another, in whatever order they are asked", async () => {
    // All are asked at the same time, several times over, so that what is kept of one may be given for another.
    for (let round = 0; round < 3; round++) {
      const texts = await Promise.all(SITES.map(({ kind }, i) => looked(urls[i]!, kind)));
      const demo = await looked(server.url, "product");
      SITES.forEach((site, i) => {
        expect(texts[i]).toContain(`${site.word} page 2 from ${site.word}`);
        expect(texts[i]).toContain(`"width":${site.width}`);
        expect(texts[i]).toContain(`"language":"${site.language}"`);
        expect(texts[i]).not.toMatch(/fennick|mooring/i);
        expect(demo).not.toContain(site.word);
        for (const other of SITES) {
          if (other === site) continue;
          expect(texts[i], `${site.word} shows ${other.word}`).not.toContain(other.word);
          expect(texts[i]).not.toContain(other.kind);
        }
      });
    }
  });

  it("take lines only for their own kinds", async () => {
    const design = { base: { title: "{name}" }, rules: [] };
    const other = await send(urls[0]!, "/api/designs.save", { kind: SITES[1]!.kind, design, seen: 0 });
    expect(other.status).toBe(404);
    expect(other.body.error).toContain(`This site has no kind “${SITES[1]!.kind}”`);
  });
});
