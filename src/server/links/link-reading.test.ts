import { beforeEach, describe, expect, it } from "vitest";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { linksRead, readNextLinks } from "../../store/links";
import { type Db, openStore } from "../../store/open";
import { writeSite } from "../../store/site";
import { LinkReading } from "./link-reading";

let db: Db;
let held: number;
let open: unknown[];
let work: () => Promise<number>;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  const put = itemWriter(db);
  for (let i = 0; i < 500; i++)
    put(
      {
        kind: "post",
        key: `${i}`,
        path: `/${i}`,
        columns: {},
        attributes: null,
        body: `<a href="/${i + 1}">x</a>`,
        byHand: null,
      },
      1,
    );
  held = 0;
  open = [];
  work = () => Promise.resolve(readNextLinks(db));
});

const readingOf = () =>
  new LinkReading({
    db,
    writer: { call: () => work() },
    jobs: { open: () => open },
    hold: () => {
      held++;
      return () => void held--;
    },
  });
const unread = () => linksRead(db).unread;

describe("the reading of links in the background", () => {
  it("reads all there are, a few at a time, and lets go of the site at the end", async () => {
    const reading = readingOf();
    let calls = 0;
    work = () => {
      calls++;
      expect(held).toBe(1);
      return Promise.resolve(readNextLinks(db));
    };
    reading.kick();
    // A second one asks for nothing more.
    reading.kick();
    await expect.poll(unread).toBe(0);
    await expect.poll(() => held).toBe(0);
    expect(calls).toBe(3);
  });

  it("lets long work go first, and goes on when it is asked at its end", async () => {
    const reading = readingOf();
    work = () => {
      open = ["a run"];
      return Promise.resolve(readNextLinks(db));
    };
    reading.kick();
    await expect.poll(() => held).toBe(0);
    expect(unread()).toBe(300);
    open = [];
    work = () => Promise.resolve(readNextLinks(db));
    reading.kick();
    await expect.poll(unread).toBe(0);
  });

  it("outlives a thread that dies: the next who asks has it tried again", async () => {
    const reading = readingOf();
    work = () => Promise.reject(new Error("The thread that writes ended"));
    reading.kick();
    await expect.poll(() => held).toBe(0);
    expect(unread()).toBe(500);
    work = () => Promise.resolve(readNextLinks(db));
    reading.kick();
    await expect.poll(unread).toBe(0);
  });

  it("begins nothing on a site that is closed, and stops where it is closed meanwhile", async () => {
    const reading = readingOf();
    work = () => {
      reading.close();
      return Promise.resolve(readNextLinks(db));
    };
    reading.kick();
    await expect.poll(() => held).toBe(0);
    expect(unread()).toBe(300);
    reading.kick();
    expect(held).toBe(0);
  });
});
