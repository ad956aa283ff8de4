import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { type Redirect } from "../../core/addresses/redirect";
import { DEMO_SITE } from "../../demo/site";
import { itemWriter } from "../../store/bring-items";
import { type Db, openStore } from "../../store/open";
import { addRedirects, iterateRedirects, setRetired } from "../../store/redirects";
import { readRun } from "../../store/runs";
import { nextRevision, writeSite } from "../../store/site";
import { storedRun } from "../../test/stored-run";
import { applyRun } from "../runs/apply-run";
import { createTakeBack } from "../runs/take-back";
import { Workspace } from "../workspace/workspace";
import { type RedirectFilter, RedirectSet } from "./redirect-set";
import { draws } from "../../test/draws";

const now = () => "2026-11-27T10:00:00Z";
let db: Db;
let set: RedirectSet;

beforeEach(() => {
  db = openStore(":memory:");
  writeSite(db, DEMO_SITE);
  set = new RedirectSet(new Workspace(db));
});

let key = 0;
function put(...paths: string[]): void {
  const write = itemWriter(db);
  for (const path of paths)
    write(
      {
        kind: "product",
        key: `k${++key}`,
        path,
        columns: { name: path.slice(1), slug: path.slice(1) },
        attributes: null,
        body: null,
        byHand: null,
      },
      nextRevision(db),
    );
}

interface PageMove {
  readonly item: number;
  readonly from: string;
  readonly to: string;
}

function runOf(moves: readonly PageMove[]): number {
  const changes = moves.map(({ item, from, to }) => ({
    item_id: item,
    text: "address" as const,
    before: "",
    after: "",
    path_before: from,
    path_after: to,
    revision: 0,
  }));
  return storedRun(db, changes);
}

const exact = (from: string, to: string, status: Redirect["status"] = 301): Redirect => ({
  from,
  to,
  status,
  prefix: false,
});
const add = (...given: Redirect[]) => addRedirects(db, given, "hand", now());
const ALL: RedirectFilter = {
  search: "",
  origin: "all",
  state: "holds",
  status: "all",
  since: null,
  before: null,
};
const list = (filter: Partial<RedirectFilter> = {}) =>
  set.list({ ...ALL, ...filter }, { from: 0, count: 100 }).redirects;
const leads = (path: string) => {
  const { to, status, hops } = set.way(path);
  return [to, status, hops.length];
};

describe("the redirects of a site", () => {
  it("lead in one hop to where the page is now, whoever made them and in whatever order", () => {
    put("/rope", "/paint");
    add(exact("/old", "/older-rope"), exact("/older-rope", "/rope"));
    expect(leads("/old")).toEqual(["/rope", 301, 2]);
    applyRun(db, runOf([{ item: 1, from: "/rope", to: "/ropes" }]), { now });
    // The way over what is stored has three hops; what is exported has one.
    expect(leads("/old")).toEqual(["/ropes", 301, 3]);
    expect(set.outgoing(false).redirects.map(({ from, to }) => [from, to])).toEqual([
      ["/old", "/ropes"],
      ["/older-rope", "/ropes"],
      ["/rope", "/ropes"],
    ]);
  });

  it("are as they were when a run is undone, what came by hand later among them", () => {
    put("/rope");
    add(exact("/old", "/rope"));
    const run = runOf([{ item: 1, from: "/rope", to: "/ropes" }]);
    applyRun(db, run, { now });
    add(exact("/later", "/ropes"));
    applyRun(db, createTakeBack(db, run, now()), { now });
    expect(leads("/old")).toEqual(["/rope", 301, 1]);
    expect(leads("/ropes")[0]).toBe("/rope");
    expect(leads("/later")[0]).toBe("/rope");
    expect(leads("/rope")).toEqual(["/rope", 200, 0]);
  });

  it("say what is amiss: a page in the way, no page there, a circle, two targets", () => {
    put("/rope");
    add(exact("/rope", "/x"), exact("/a", "/b"), exact("/b", "/a"), exact("/c", "/none"));
    expect(set.figures().faults).toEqual([
      { what: "collision", count: 1 },
      { what: "loop", count: 1 },
      { what: "dead end", count: 1 },
    ]);
    expect(list({ state: "faulty" }).map(({ from, fault }) => [from, fault])).toEqual([
      ["/c", "dead end"],
      ["/b", "loop"],
      ["/a", "loop"],
      ["/rope", "collision"],
    ]);
  });

  it("lead to a page by further paths, wherever it moves; others are answered by nothing", () => {
    put("/rope", "/paint");
    add(exact("/caf%C3%A9", "/rope"), exact("/short", "/caf%C3%A9"), exact("/p", "/paint"));
    const further = (at: string) => set.pathsTo(at).map(({ path, origin }) => [path, origin]);
    expect(further("/rope")).toEqual([
      ["/short", "hand"],
      ["/café", "hand"],
    ]);
    applyRun(db, runOf([{ item: 1, from: "/rope", to: "/ropes" }]), { now });
    expect(further("/rope")).toEqual([]);
    expect(further("/ropes")).toEqual([
      ["/rope", "run"],
      ["/short", "hand"],
      ["/café", "hand"],
    ]);
    setRetired(db, [set.pathsTo("/ropes")[1]!.id!], now());
    expect(further("/ropes").map(([path]) => path)).toEqual(["/rope", "/café"]);
    expect(set.unanswered(["/ropes", "/rope", "/gone", "/p", "/short"])).toEqual(["/gone", "/short"]);
  });

  it("are looked at before they are taken in: only what comes of them is told", () => {
    put("/rope");
    add(exact("/c", "/none"));
    expect(set.look([exact("/old", "/rope"), exact("/c", "/none")])).toEqual({ reports: [], known: 1 });
    expect(set.look([exact("/rope", "/x")]).reports).toEqual([{ what: "collision", from: "/rope", to: "/x" }]);
  });

  it("are retired and used again, and one of the same path takes the place of the other", () => {
    put("/rope", "/paint");
    add(exact("/old", "/rope"));
    add(exact("/old", "/paint", 302));
    expect(list().map(({ to }) => to)).toEqual(["/paint"]);
    expect(list({ state: "retired" }).map(({ to }) => to)).toEqual(["/rope"]);
    expect(add(exact("/old", "/paint", 302))).toBe(0);
    setRetired(
      db,
      list().map(({ id }) => id),
      now(),
    );
    expect(leads("/old")).toEqual([null, 404, 0]);
    setRetired(
      db,
      [...iterateRedirects(db)].map(({ id }) => id),
      null,
    );
    expect(leads("/old")[0]).toBe("/paint");
  });

  it("that are used again take the place of what was given for their path meanwhile", () => {
    put("/rope", "/paint");
    add(exact("/old", "/rope"));
    add(exact("/old", "/paint"));
    const [first] = list({ state: "retired" });
    setRetired(db, [first!.id], null);
    expect(leads("/old")[0]).toBe("/rope");
    expect(list({ state: "retired" }).map(({ to }) => to)).toEqual(["/paint"]);
  });

  it("stay retired when their page moves on", () => {
    put("/rope");
    applyRun(db, runOf([{ item: 1, from: "/rope", to: "/ropes" }]), { now });
    setRetired(
      db,
      list().map(({ id }) => id),
      now(),
    );
    applyRun(db, runOf([{ item: 1, from: "/ropes", to: "/lines" }]), { now });
    expect(leads("/rope")).toEqual([null, 404, 0]);
    expect(leads("/ropes")[0]).toBe("/lines");
  });

  it("are found by their words, where they are from, and with letters beyond ASCII as people read them", () => {
    put("/tauwerk/öl");
    addRedirects(db, [exact("/alt/größe", "/tauwerk/öl")], "file", now());
    add(exact("/old", "/tauwerk/öl"));
    expect(list({ search: "alt TAU" }).map(({ from }) => from)).toEqual(["/alt/größe"]);
    expect(list({ origin: "hand" }).map(({ from }) => from)).toEqual(["/old"]);
    add(exact("/gone", "", 410), exact("/then", "/tauwerk/öl", 302));
    expect(list({ status: 410 }).map(({ from }) => from)).toEqual(["/gone"]);
    expect(list({ status: 302, search: "alt" })).toEqual([]);
    db.prepare("UPDATE redirects SET created_at = '2025-01-02T00:00:00Z' WHERE from_path = '/old'").run();
    db.prepare("UPDATE redirects SET created_at = NULL WHERE from_path = '/gone'").run();
    add(exact("/new", "/tauwerk/öl"));
    expect(list({ since: "2026-01-01" }).map(({ from }) => from)).toEqual(["/new", "/then", "/alt/größe"]);
    expect(list({ before: "2026-01-01" }).map(({ from }) => from)).toEqual(["/gone", "/old"]);
    expect(set.way("/alt/gr%C3%B6%C3%9Fe")).toMatchObject({ to: "/tauwerk/öl", page: { name: "tauwerk/öl" } });
  });

  it("take a folder along, and leave the pages in it alone", () => {
    put("/new/a", "/old/stays");
    add({ from: "/old/", to: "/new/", status: 301, prefix: true });
    expect(leads("/old/a")).toEqual(["/new/a", 301, 1]);
    expect(leads("/old/stays")).toEqual(["/old/stays", 200, 0]);
    expect(set.outgoing(true)).toMatchObject({ keeps: ["/old/stays"] });
  });
});

describe("whatever runs, undoing and hands do in whatever order", () => {
  const step = fc.oneof(
    { weight: 4, arbitrary: fc.record({ do: fc.constant("move" as const), page: fc.nat(2), to: fc.nat(7) }) },
    { weight: 2, arbitrary: fc.record({ do: fc.constant("swap" as const), page: fc.nat(2), to: fc.nat(2) }) },
    { weight: 2, arbitrary: fc.record({ do: fc.constant("undo" as const) }) },
    { weight: 2, arbitrary: fc.record({ do: fc.constant("hand" as const), from: fc.nat(7), to: fc.nat(7) }) },
    { weight: 1, arbitrary: fc.record({ do: fc.constant("retire" as const), which: fc.nat(5) }) },
    { weight: 1, arbitrary: fc.record({ do: fc.constant("folder" as const), status: fc.constantFrom(301, 302) }) },
  );
  const places = Array.from({ length: 8 }, (_, i) => (i < 6 ? `/p${i}` : `/f/p${i}`));

  it("every path that a page ever had leads in one hop to where it is, unless another page or a person says otherwise", () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
        for (const table of ["redirects", "run_changes", "runs", "items"]) db.exec(`DELETE FROM ${table}`);
        put(places[0]!, places[1]!, places[2]!);
        const had = new Map([1, 2, 3].map((item) => [item, new Set<string>()]));
        const handled = new Set<string>();
        const pathOf = (item: number) => db.prepare("SELECT path FROM items WHERE id = ?").pluck().get(item) as string;
        const runs: number[] = [];
        const run = (moves: readonly PageMove[]) => {
          const id = runOf(moves);
          applyRun(db, id, { now });
          if (readRun(db, id)!.applied > 0) runs.push(id);
        };
        for (const own of steps) {
          if (own.do === "move") {
            const item = own.page + 1;
            run([{ item, from: pathOf(item), to: places[own.to]! }]);
          } else if (own.do === "swap" && own.page !== own.to) {
            const [a, b] = [own.page + 1, own.to + 1];
            run([
              { item: a, from: pathOf(a), to: pathOf(b) },
              { item: b, from: pathOf(b), to: pathOf(a) },
            ]);
          } else if (own.do === "undo" && runs.length > 0)
            applyRun(db, createTakeBack(db, runs.pop()!, now()), { now });
          else if (own.do === "hand" && own.from !== own.to) {
            add(exact(places[own.from]!, places[own.to]!));
            handled.add(places[own.from]!);
          } else if (own.do === "folder") add({ from: "/f/", to: "/g/", status: own.status as 301, prefix: true });
          else if (own.do === "retire") {
            const stored = [...iterateRedirects(db)].filter(({ origin }) => origin === "hand");
            if (stored[own.which]) setRetired(db, [stored[own.which]!.id], now());
          }
          for (const item of had.keys()) had.get(item)!.add(pathOf(item));
          const live = new Map([1, 2, 3].map((item) => [pathOf(item), item]));
          const { redirects } = set.outgoing(false);
          for (const { from, to } of redirects) {
            expect(live.has(from), `${from} has a page and redirects`).toBe(false);
            expect(
              redirects.some((other) => !other.prefix && other.from === to),
              `${from} → ${to} is a chain`,
            ).toBe(false);
          }
          for (const [item, paths] of had)
            for (const path of paths) {
              // What a person said of a path counts, and of two pages that had it the last one that left it.
              if (live.has(path) || handled.has(path)) continue;
              const others = [...had].filter(([other, theirs]) => other !== item && theirs.has(path));
              if (others.length > 0) continue;
              expect(redirects.find(({ from, prefix }) => from === path && !prefix)?.to, path).toBe(pathOf(item));
            }
        }
      }),
      { numRuns: draws(2000) },
    );
  });
});
