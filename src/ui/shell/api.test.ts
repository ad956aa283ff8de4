import fc from "fast-check";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ApiError, ask, askStreamed, isAborted } from "./api";

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
  );
}

describe("a question to the server", () => {
  it("is a GET without a body, a POST with one, unless said otherwise", async () => {
    answering(json({ ok: 1 }));
    await ask("/api/state");
    await ask("/api/kept", { body: { kind: "post" } });
    await ask("/api/draft", { method: "PUT", body: {} });
    const calls = vi.mocked(fetch).mock.calls.map(([path, init]) => [path, init!.method, init!.body]);
    expect(calls).toEqual([
      ["/api/state", "GET", undefined],
      ["/api/kept", "POST", '{"kind":"post"}'],
      ["/api/draft", "PUT", "{}"],
    ]);
  });

  it("gives what the server answers", async () => {
    answering(json({ total: 3 }));
    expect(await ask<{ total: number }>("/api/x")).toEqual({ total: 3 });
  });

  it("fails with the server’s own words", async () => {
    answering(json({ error: "There is no run 7" }, 422));
    await expect(ask("/api/runs/7")).rejects.toThrow(new ApiError("There is no run 7"));
  });

  it("says the status where the answer has no words", async () => {
    answering(() => new Response("<html>Bad gateway</html>", { status: 502 }));
    await expect(ask("/api/x")).rejects.toThrow("The server answered with status 502.");
  });

  it("says that the server does not answer, and that nothing is lost", async () => {
    answering(() => Promise.reject(new TypeError("fetch failed")));
    await expect(ask("/api/x")).rejects.toThrow(/does not answer.*draft is kept/s);
  });

  it("is told from one that a newer took the place of", async () => {
    answering(json({ cancelled: true }, 409));
    const error: unknown = await ask("/api/x").catch((e: unknown) => e);
    expect(isAborted(error)).toBe(true);
    expect(isAborted(new ApiError("x"))).toBe(false);
  });
});

describe("a question that takes long", () => {
  const lines = [{ progress: { share: 0.25 } }, { progress: { share: 0.75 } }, { result: { words: "Öse – “Tau” 🛟" } }]
    .map((line) => `${JSON.stringify(line)}\n`)
    .join("");

  it("hears of progress in order, and gets the result, however the answer is cut", async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 60 }), async (size) => {
        answering(() => inPieces(lines, size));
        const heard: number[] = [];
        const result = await askStreamed<{ words: string }, { share: number }>(
          "/api/x",
          {},
          { signal: signal(), onProgress: ({ share }) => heard.push(share) },
        );
        expect(heard).toEqual([0.25, 0.75]);
        expect(result.words).toBe("Öse – “Tau” 🛟");
      }),
      { numRuns: 40 },
    );
  });

  it("gets a result that no line break follows, and one that is nothing", async () => {
    answering(() => inPieces('{"result":7}', 3));
    expect(await askStreamed("/api/x", {}, { signal: signal(), onProgress: () => {} })).toBe(7);
    answering(() => inPieces('{"progress":1}\n{"result":null}\n', 5));
    expect(await askStreamed("/api/x", {}, { signal: signal(), onProgress: () => {} })).toBeNull();
  });

  it("fails with the server’s words, even after progress", async () => {
    answering(() => inPieces('{"progress":1}\n{"error":"The list has changed"}\n', 9));
    await expect(askStreamed("/api/x", {}, { signal: signal(), onProgress: () => {} })).rejects.toThrow(
      new ApiError("The list has changed"),
    );
  });

  it("says so where the answer ends too early", async () => {
    answering(() => inPieces('{"progress":1}\n', 4));
    await expect(askStreamed("/api/x", {}, { signal: signal(), onProgress: () => {} })).rejects.toThrow(
      /ended too early/,
    );
  });

  it("is told from one that a newer took the place of", async () => {
    answering(() => inPieces('{"cancelled":true}\n', 4));
    const error: unknown = await askStreamed("/api/x", {}, { signal: signal(), onProgress: () => {} }).catch(
      (e: unknown) => e,
    );
    expect(isAborted(error)).toBe(true);
  });

  it("says that the server does not answer", async () => {
    answering(() => Promise.reject(new TypeError("fetch failed")));
    await expect(askStreamed("/api/x", {}, { signal: signal(), onProgress: () => {} })).rejects.toThrow(
      /does not answer/,
    );
  });
});
