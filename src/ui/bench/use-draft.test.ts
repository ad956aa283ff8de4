// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { createElement, type ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { baseDesign, type KindDesign } from "../../core/design/design";
import type { SiteState } from "../../server/site/site-state";
import type { StoredDraft } from "../../store/drafts";
import { kindIds } from "../../core/design/kinds";
import { SiteProvider } from "../shell/site-context";
import { useDraft } from "./use-draft";
import { NO_STATE } from "../../test/no-state";

type How = "arrives" | "lost" | "answer lost" | "refused";

/** A server that stores a kind's draft as ours does; each save is answered when the test says so, in any order. */
class Server {
  stored: StoredDraft = { design: baseDesign({ title: "first" }), version: 1, savedAt: null };
  readonly open: { title: string; answer: (how: How) => void }[] = [];

  readonly fetch = (path: string, init: RequestInit): Promise<Response> => {
    expect(path).toBe("/api/designs.save");
    const { design, seen } = JSON.parse(String(init.body)) as { design: KindDesign; seen: number };
    return new Promise((resolve, reject) => {
      const answer = (how: How) => {
        if (how === "lost") return reject(new TypeError("fetch failed"));
        if (how === "refused") return resolve(json({ error: "That is no design", code: "invalid" }, 422));
        const result = this.store(design, seen);
        if (how === "answer lost") reject(new TypeError("fetch failed"));
        else resolve(json(result, 200));
      };
      this.open.push({ title: design.base.title!, answer });
    });
  };

  async answer(how: How = "arrives"): Promise<void> {
    await act(async () => {
      this.open.shift()!.answer(how);
      await vi.advanceTimersByTimeAsync(0);
    });
  }

  private store(design: KindDesign, seen: number) {
    const isSame = JSON.stringify(design) === JSON.stringify(this.stored.design);
    if (this.stored.version > seen && !isSame) return { conflict: this.stored };
    if (!isSame) this.stored = { design, version: this.stored.version + 1, savedAt: null };
    return { saved: this.stored };
  }
}

const json = (body: unknown, status: number) =>
  new Response(JSON.stringify(body), { status, headers: { "content-type": "application/json" } });

let server: Server;

function openBench() {
  const drafts = Object.fromEntries(kindIds(null).map((kind) => [kind, server.stored])) as SiteState["drafts"];
  const initial: SiteState = { ...NO_STATE, drafts };
  const wrapper = ({ children }: { children: ReactNode }) => createElement(SiteProvider, { initial, children });
  return renderHook(() => useDraft("product"), { wrapper }).result;
}

/** Types titles one after another, with a pause between them that is long enough for a save to begin. */
async function type(bench: ReturnType<typeof openBench>, ...titles: string[]): Promise<void> {
  for (const title of titles) {
    act(() => bench.current.change(baseDesign({ title }), "Title"));
    await passed(500);
  }
}
const passed = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));
const kept = () => Object.entries(localStorage).filter(([name]) => name.startsWith(": nine-lines draft"));

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  server = new Server();
  vi.stubGlobal("fetch", server.fetch);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("two changes before anything is drawn", () => {
  it("are both there", () => {
    const bench = openBench();
    const withLineOf = (of: "title" | "slug") => (now: KindDesign) => ({
      ...now,
      base: { ...now.base, [of]: `{${of}}` },
    });
    act(() => {
      bench.current.change(withLineOf("title"), "Title");
      bench.current.change(withLineOf("slug"), "Slug");
    });
    expect(bench.current.design.base).toMatchObject({ title: "{title}", slug: "{slug}" });
    act(() => bench.current.undo());
    expect(bench.current.design.base).toMatchObject({ title: "{title}" });
    expect(bench.current.design.base.slug).toBeUndefined();
  });
});

describe("three quick changes", () => {
  it("are all stored while the first save is slow, one save under way at a time", async () => {
    const bench = openBench();
    await type(bench, "one", "two", "three");
    expect(server.open.map(({ title }) => title)).toEqual(["one"]);
    expect(bench.current.saved).toBe("saving");
    await server.answer();
    expect(bench.current.saved).toBe("saving");
    expect(server.open.map(({ title }) => title)).toEqual(["three"]);
    await server.answer();
    expect(bench.current.saved).toBe("stored");
    expect(server.stored.design.base.title).toBe("three");
  });

  it("are kept in the browser until what the server acknowledged is what is there", async () => {
    const bench = openBench();
    await type(bench, "one", "two");
    await server.answer();
    expect(kept()).toHaveLength(1);
    expect(kept()[0]![1]).toContain("two");
    await server.answer();
    expect(kept()).toEqual([]);
  });

  it("are sent again where a save fails, and nothing says “stored” before", async () => {
    const bench = openBench();
    await type(bench, "one", "two");
    await server.answer("lost");
    expect(bench.current.saved).toBe("offline");
    expect(bench.current.design.base.title).toBe("two");
    await passed(1000);
    await server.answer();
    expect(bench.current.saved).toBe("stored");
    expect(server.stored.design.base.title).toBe("two");
  });

  it("are no conflict with themselves where only the answer was lost", async () => {
    const bench = openBench();
    await type(bench, "one");
    await server.answer("answer lost");
    expect(server.stored.design.base.title).toBe("one");
    await passed(1000);
    await server.answer();
    expect(bench.current.saved).toBe("stored");
  });

  it("are sent at once when the connection is back", async () => {
    const bench = openBench();
    await type(bench, "one");
    await server.answer("lost");
    await act(async () => window.dispatchEvent(new Event("online")));
    await server.answer();
    expect(bench.current.saved).toBe("stored");
  });
});

describe("a draft that the server does not take", () => {
  it("stays as it was typed, is said to be refused, and goes out with the next change", async () => {
    const bench = openBench();
    await type(bench, "one");
    await server.answer("refused");
    expect(bench.current.saved).toBe("refused");
    expect(bench.current.design.base.title).toBe("one");
    await type(bench, "two");
    await server.answer();
    expect(bench.current.saved).toBe("stored");
  });
});

describe("another window’s draft", () => {
  it("is not written over: what was typed waits until one of them is chosen", async () => {
    const bench = openBench();
    server.stored = { design: baseDesign({ title: "theirs" }), version: 2, savedAt: null };
    await type(bench, "mine");
    await server.answer();
    expect(bench.current.saved).toBe("conflict");
    expect(bench.current.design.base.title).toBe("mine");
    await type(bench, "mine and more");
    expect(server.open).toEqual([]);
    expect(server.stored.design.base.title).toBe("theirs");
  });
});

describe("what a closed window left behind", () => {
  const leave = () =>
    localStorage.setItem(
      ": nine-lines draft product gone",
      JSON.stringify({ design: baseDesign({ title: "left" }), seen: 1, sending: null, at: 1 }),
    );

  it("is taken up and stored", async () => {
    leave();
    const bench = openBench();
    // What checks it comes as a part of its own.
    await import("../shell/read-kept");
    await passed(0);
    expect(bench.current.design.base.title).toBe("left");
    await server.answer();
    expect(server.stored.design.base.title).toBe("left");
    expect(kept()).toEqual([]);
  });

  it("does not write over what is typed already, and is not lost", async () => {
    leave();
    const bench = openBench();
    act(() => bench.current.change(baseDesign({ title: "typed" }), "Title"));
    await passed(500);
    await server.answer();
    expect(bench.current.design.base.title).toBe("typed");
    expect(server.stored.design.base.title).toBe("typed");
    expect(kept().map(([name]) => name)).toEqual([": nine-lines draft product gone"]);
  });
});

describe("undo", () => {
  it("goes back to before steps that a slow save has not stored yet", async () => {
    const bench = openBench();
    await type(bench, "one", "two");
    act(() => bench.current.undo());
    act(() => bench.current.undo());
    expect(bench.current.design.base.title).toBe("first");
    act(() => bench.current.redo());
    expect(bench.current.design.base.title).toBe("one");
    await server.answer();
    await server.answer();
    expect(server.stored.design.base.title).toBe("one");
    expect(bench.current.saved).toBe("stored");
  });
});
