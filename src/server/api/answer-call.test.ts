import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as z from "zod";
import { answerInPieces } from "./answer";
import { answerCall, answerWithin } from "./answer-call";
import { endpoint, NOTHING, slowEndpoint } from "./endpoint";

const nothing = {};
const answering = {
  held: <T>(work: () => Promise<T>) => work(),
  watch: (told: (progress: unknown) => void) => {
    told("others");
    return () => {};
  },
};
const ask = (calls: Record<string, object>, headers: Record<string, string> = {}) =>
  answerCall(
    calls,
    "room.call",
    new Request("http://here/", { method: "POST", body: "{}", headers }),
    nothing,
    answering,
  );
/** A promise, and what ends it. */
function held<T>() {
  let end!: (value: T) => void;
  return { answer: new Promise<T>((resolve) => (end = resolve)), end: (value: T) => end(value) };
}
const lines = async (response: Response) =>
  (await response.text())
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as unknown);

describe("a call that may take long", () => {
  it("is answered in one piece where the answer is there soon", async () => {
    const response = await ask({ room: { call: slowEndpoint(NOTHING, () => ({ result: 7 })) } });
    expect(response.headers.get("content-type")).toBe("application/json");
    expect(await response.json()).toEqual({ result: 7 });
  });

  it("says how far it is where it is not, what came before anybody listened included", async () => {
    const { answer, end } = held<number>();
    let tell!: (progress: unknown) => void;
    const call = slowEndpoint(NOTHING, (_on: unknown, _input, { progress }) => {
      progress("begun");
      progress("looked at 100");
      tell = progress;
      return answer;
    });
    const response = await ask({ room: { call } });
    expect(response.headers.get("content-type")).toContain("application/x-ndjson");
    tell("looked at 200");
    end(9);
    expect(await lines(response)).toEqual([
      { progress: "looked at 100" },
      { progress: "looked at 200" },
      { result: 9 },
    ]);
  });
});

describe("an answer that takes long", () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it("is heard of every few seconds until it is there, and not after", async () => {
    const { answer, end } = held<number>();
    const response = answerInPieces(() => answer, "room.call");
    await vi.advanceTimersByTimeAsync(11_000);
    end(9);
    expect(await response.text()).toBe('\n\n{"result":9}\n');
    expect(vi.getTimerCount()).toBe(0);
  });
});

describe("a call that is answered at once", () => {
  const { answer, end } = held<string>();
  const room = { call: endpoint(NOTHING, (_on: unknown) => answer) };

  it("says what it waits for where it is late, to who can hear it", async () => {
    const response = await ask({ room }, { accept: "application/json, application/x-ndjson" });
    end("done");
    expect(await lines(response)).toEqual([{ late: true }, { progress: "others" }, { result: "done" }]);
  });
});

describe("an answer that no request asked for", () => {
  const within = (call: object, input: unknown = {}) =>
    answerWithin({ room: { call } }, "room.call", input, nothing, { held: answering.held, ms: 30 });

  it("is there, or is not within the time and is ended, so that who asks again hears how far it is", async () => {
    expect(await within(endpoint(NOTHING, (_on: unknown) => "here"))).toBe("here");
    const ended = vi.fn();
    const late = slowEndpoint(NOTHING, (_on: unknown, _input, { signal }) => {
      signal.addEventListener("abort", ended);
      return new Promise(() => {});
    });
    expect(await within(late)).toBeUndefined();
    expect(ended).toHaveBeenCalledOnce();
  });

  it("is a refusal where the question is none, and troubles nobody where it fails too late", async () => {
    await expect(within(endpoint(z.object({ kind: z.string() }), (_on: unknown) => 1))).rejects.toThrow();
    const { answer, end } = held<string>();
    const failing = endpoint(NOTHING, (_on: unknown) => answer.then(() => Promise.reject(new Error("too late"))));
    expect(await within(failing)).toBeUndefined();
    end("");
    await expect(answer).resolves.toBe("");
  });
});
