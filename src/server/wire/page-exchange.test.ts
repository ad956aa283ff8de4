import { createServer } from "node:http";
import { type AddressInfo } from "node:net";
import { afterEach, describe, expect, it } from "vitest";
import { readConnection } from "../../core/connection/connection-file";
import flat from "../../demo/connections/flat.connection.json";
import nested from "../../demo/connections/nested.connection.json";
import { PageExchange, type SentField, type SentPage } from "./page-exchange";
import { SiteClient } from "./site-client";

const ends: (() => void | Promise<void>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0)) await end();
});

/** A site that answers everything with one thing, and how it is spoken to. */
async function exchangeWith(answer: unknown, file: object = flat): Promise<PageExchange> {
  const server = createServer((_, response) => response.end(JSON.stringify(answer)));
  await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const connection = readConnection(JSON.stringify({ ...file, base, visitors: base }));
  const client = new SiteClient(connection, { secret: "x" });
  ends.push(
    () => client.close(),
    () => void server.close(),
  );
  return new PageExchange(client, connection, { dropQueries: false, kinds: [] });
}

const page = (before: Partial<Record<SentField, string>>, after: Partial<Record<SentField, string>>): SentPage => ({
  item: 1,
  kind: "product",
  remote: "p1",
  before: new Map(Object.entries(before) as [SentField, string][]),
  after: new Map(Object.entries(after) as [SentField, string][]),
  forms: new Map(),
});

describe("a page that is read", () => {
  it("that does not speak of what was sent does not confirm it", async () => {
    const exchange = await exchangeWith({ id: "p1" });
    const change = page({ title: "Old" }, { title: "New" });
    expect(await exchange.see(change)).toMatchObject({ reads: "other" });
    expect(await exchange.see(page({ title: "" }, { title: "New" }))).toMatchObject({ reads: "before" });
    expect(await exchange.see(page({ title: "Old" }, { title: "" }))).toMatchObject({ reads: "after" });
  });

  it("half of which is as it was wanted is sent again, and is told where it is something else", async () => {
    const exchange = await exchangeWith({ id: "p1", seo_title: "New", seo_description: "Old" });
    const change = page({ title: "Old", description: "Old" }, { title: "New", description: "New" });
    expect((await exchange.see(change)).reads).toBe("before");
    const other = page({ title: "Old", description: "Older" }, { title: "New", description: "New" });
    expect((await exchange.see(other)).words).toBe(
      "The description was changed on the site meanwhile; it now reads “Old”",
    );
  });
});

describe("what a site answers to changes", () => {
  it("without a status for each is nothing to go by", async () => {
    const exchange = await exchangeWith({ results: [{ id: "p1" }] });
    const change = page({ title: "Old" }, { title: "New" });
    const sent = exchange.sendTogether(exchange.write.batch!, [{ page: change, seen: { etag: "1", record: null } }]);
    await expect(sent).rejects.toThrow(/without a status/);
  });

  it("is not asked for where the version that has to go back is not in the record", async () => {
    const record = { entry: { ref: "p1" }, meta: [{ key: "seo_title", value: "Old" }] };
    const exchange = await exchangeWith(record, nested);
    const change = page({ title: "Old" }, { title: "New" });
    await expect(exchange.send(change, { etag: null, record })).rejects.toThrow(/no version at \/entry\/rev/);
  });
});
