// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { baseDesign } from "../../core/design/design";
import { draftKeeper, orphanedDraft } from "./kept-drafts";

/** The locks of a browser's windows, as far as they are used here. */
class Locks {
  private readonly held = new Map<string, Promise<void>>();

  /** A window that is open. @returns closes it. */
  open(client: string): () => void {
    let close = () => {};
    this.held.set(`nine-lines window ${client}`, new Promise((resolve) => (close = resolve)));
    return () => {
      this.held.delete(`nine-lines window ${client}`);
      close();
    };
  }

  readonly query = () => Promise.resolve({ held: [...this.held.keys()].map((name) => ({ name })) });

  readonly request = async (name: string, { signal }: { signal: AbortSignal }, work: () => void) => {
    const aborted = new Promise<never>((_, reject) => {
      signal.addEventListener("abort", () => reject(new Error("aborted")));
    });
    await Promise.race([this.held.get(name), aborted]);
    work();
  };
}

let locks: Locks;
const kept = { design: baseDesign({ title: "{name} five" }), seen: 3, sending: null };
const left = (isWanted = () => true) => orphanedDraft("product", "new", localStorage, isWanted);

beforeEach(() => {
  localStorage.clear();
  locks = new Locks();
  vi.stubGlobal("navigator", { locks });
  draftKeeper("product", "old", localStorage).put(kept);
});
afterEach(() => {
  vi.unstubAllGlobals();
});

describe("what another window kept of a draft", () => {
  it("is taken up where that window is gone, once", async () => {
    expect(await left()).toMatchObject(kept);
    expect(await left()).toBeNull();
  });

  it("is taken up where that window is closing while this one opens", async () => {
    const close = locks.open("old");
    const found = left();
    setTimeout(close, 20);
    expect(await found).toMatchObject(kept);
  });

  it("is left alone where that window stays", async () => {
    const waited = new AbortController();
    vi.spyOn(AbortSignal, "timeout").mockReturnValue(waited.signal);
    setTimeout(() => waited.abort(), 20);
    locks.open("old");
    expect(await left()).toBeNull();
    expect(localStorage.length).toBe(1);
  });

  it("stays for the next window where this one has something of its own by then", async () => {
    expect(await left(() => false)).toBeNull();
    expect(localStorage.length).toBe(1);
  });
});
