import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { WorkProgress } from "../../server/workspace/watch";
import { ApiError, call, isAborted } from "./api";
import { waitWords } from "./waits";

afterEach(() => vi.unstubAllGlobals());

const answering = (make: () => Response | Promise<Response>) => vi.stubGlobal("fetch", vi.fn(make));
const json =
  (body: unknown, status = 200) =>
  () =>
    Response.json(body, { status });
const signal = () => new AbortController().signal;

/** An answer that comes in pieces of so many bytes, however its letters are cut. */
function inPieces(text: string, size: number): Response {
  const bytes = new TextEncoder().encode(text);
  let at = 0;
  return new Response(
    new ReadableStream({
      pull(controller) {
        if (at >= bytes.length) return controller.close();
        controller.enqueue(bytes.slice(at, (at += size)));
      },
    }),
    { headers: { "content-type": "application/x-ndjson; charset=utf-8" } },
  );
}

describe("a call", () => {
  it("is sent by its name, with what it takes and the window that asks", async () => {
    answering(json({ ok: 1 }));
    await call("site.state", {});
    await call("designs.versions", { kind: "post" }, { keepalive: true });
    const calls = vi.mocked(fetch).mock.calls.map(([path, init]) => [path, init!.method, init!.body, init!.keepalive]);
    expect(calls).toEqual([
      ["/api/site.state", "POST", "{}", false],
      ["/api/designs.versions", "POST", '{"kind":"post"}', true],
    ]);
    const headers = vi.mocked(fetch).mock.calls[0]![1]!.headers as Record<string, string>;
    expect(headers["x-client"]).toMatch(/^\w+$/);
  });

  it("gives what the server answers", async () => {
    answering(json({ cleared: 3 }));
    expect(await call("keywords.clear", {})).toEqual({ cleared: 3 });
  });

  it("fails with the server’s own words and code", async () => {
    answering(json({ error: "There is no run 7", code: "not-found" }, 404));
    await expect(call("runs.read", { id: 7 })).rejects.toMatchObject({
      message: "There is no run 7",
      code: "not-found",
    });
  });

  it("says the status where the answer has no words", async () => {
    answering(() => new Response("<html>Bad gateway</html>", { status: 502 }));
    await expect(call("site.state", {})).rejects.toThrow("The server answered with status 502.");
  });

  it("says that the server does not answer, and that nothing is lost", async () => {
    answering(() => Promise.reject(new TypeError("fetch failed")));
    await expect(call("site.state", {})).rejects.toMatchObject({ code: "offline" });
    await expect(call("site.state", {})).rejects.toThrow(/does not answer.*draft is kept/s);
  });

  it("is not taken for answered with nothing where its answer is cut off", async () => {
    answering(() => new Response('{"cleared":', { headers: { "content-type": "application/json" } }));
    await expect(call("keywords.clear", {})).rejects.toMatchObject({ code: "offline" });
  });

  it("is told from one that a newer took the place of", async () => {
    answering(json({ cancelled: true }, 409));
    const error: unknown = await call("site.state", {}).catch((e: unknown) => e);
    expect(isAborted(error)).toBe(true);
    expect(isAborted(new ApiError("x"))).toBe(false);
  });
});

describe("a call that is answered in pieces", () => {
  const lines = [{ progress: { share: 0.25 } }, { progress: { share: 0.75 } }, { result: { words: "Öse – “Tau” 🛟" } }]
    .map((line) => `${JSON.stringify(line)}\n`)
    .join("");

  it("hears of progress in order, and gets the result, however the answer is cut", async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 60 }), async (size) => {
        answering(() => inPieces(lines, size));
        const heard: number[] = [];
        const result = await call(
          "keywords.matrix",
          {},
          {
            signal: signal(),
            onProgress: ({ share }: WorkProgress) => heard.push(share),
          },
        );
        expect(heard).toEqual([0.25, 0.75]);
        expect((result as unknown as { words: string }).words).toBe("Öse – “Tau” 🛟");
      }),
      { numRuns: 40 },
    );
  });

  it("waits before the eyes of the user where it should have been there at once, until it is", async () => {
    const seen: (string | null)[] = [];
    const progress = { step: "matching", kind: "product", text: null, side: null, share: 0.5 };
    answering(() => inPieces(`{"late":true}\n{"progress":${JSON.stringify(progress)}}\n{"result":7}\n`, 500));
    const onProgress = () => seen.push(waitWords(null));
    expect(await call("bench.fields", { kind: "all" }, { onProgress })).toBe(7);
    expect(seen).toEqual(["Waiting for the server. Finding which products the conditions match: 50 %"]);
    expect(waitWords(null)).toBeNull();
    answering(() => inPieces(`{"late":true}\n{"error":"no"}\n`, 500));
    await expect(call("bench.fields", { kind: "all" })).rejects.toThrow("no");
    expect(waitWords(null)).toBeNull();
  });

  it("gets a result that no line break follows, and one that is nothing", async () => {
    answering(() => inPieces('{"result":7}', 3));
    expect(await call("keywords.matrix", {}, { signal: signal() })).toBe(7);
    answering(() => inPieces('{"progress":1}\n{"result":null}\n', 5));
    expect(await call("keywords.matrix", {}, { signal: signal() })).toBeNull();
  });

  it("fails with the server’s words, even after progress", async () => {
    answering(() => inPieces('{"progress":1}\n{"error":"The list has changed"}\n', 9));
    await expect(call("keywords.matrix", {}, { signal: signal() })).rejects.toThrow(
      new ApiError("The list has changed"),
    );
  });

  it("says so where the answer ends too early", async () => {
    answering(() => inPieces('{"progress":1}\n', 4));
    await expect(call("keywords.matrix", {}, { signal: signal() })).rejects.toThrow(/ended too early/);
  });

  it("is told from one that a newer took the place of", async () => {
    answering(() => inPieces('{"cancelled":true}\n', 4));
    const error: unknown = await call("keywords.matrix", {}, { signal: signal() }).catch((e: unknown) => e);
    expect(isAborted(error)).toBe(true);
  });

  it("says that the server does not answer", async () => {
    answering(() => Promise.reject(new TypeError("fetch failed")));
    await expect(call("keywords.matrix", {}, { signal: signal() })).rejects.toThrow(/does not answer/);
  });
});

describe("a server that neither answers nor ends the connection", () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());
  /** Answers with what is sent by and by, and ends when the request is ended. */
  const opening = () => {
    let to!: ReadableStreamDefaultController<Uint8Array>;
    const body = new ReadableStream<Uint8Array>({ start: (controller) => void (to = controller) });
    vi.stubGlobal("fetch", (_path: string, { signal: ending }: RequestInit) => {
      ending!.addEventListener("abort", () => to.error(ending!.reason));
      return Promise.resolve(new Response(body, { headers: { "content-type": "application/x-ndjson" } }));
    });
    return (text: string) => to.enqueue(new TextEncoder().encode(text));
  };
  const outcome = (asked: Promise<unknown>) =>
    asked.then(
      (value) => ({ value }),
      (error: unknown) => error,
    );

  it("is told after a minute, whether it answered nothing or fell silent", async () => {
    vi.stubGlobal(
      "fetch",
      (_path: string, { signal: ending }: RequestInit) =>
        new Promise((_resolve, reject) => ending!.addEventListener("abort", () => reject(ending!.reason as Error))),
    );
    const unanswered = outcome(call("site.state", {}));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(await unanswered).toMatchObject({ code: "offline", message: expect.stringContaining("does not answer") });
    opening()('{"progress":1}\n');
    const silent = outcome(call("keywords.matrix", {}, { signal: signal() }));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(await silent).toMatchObject({ code: "offline", message: expect.stringContaining("does not answer") });
  });

  it("is not one that takes its time and says that it is at it", async () => {
    const send = opening();
    const asked = call("keywords.matrix", {}, { signal: signal() });
    for (let minute = 0; minute < 5; minute++) {
      send("\n");
      await vi.advanceTimersByTimeAsync(59_000);
    }
    send('{"result":7}\n');
    expect(await asked).toBe(7);
    expect(vi.getTimerCount()).toBe(0);
  });

  it("is told from whoever does not wait any longer", async () => {
    opening();
    const leaving = new AbortController();
    const left = outcome(call("keywords.matrix", {}, { signal: leaving.signal }));
    leaving.abort();
    expect(isAborted(await left)).toBe(true);
  });
});
