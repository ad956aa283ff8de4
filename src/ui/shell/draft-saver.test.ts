import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { baseDesign, type KindDesign } from "../../core/design/design";
import type { StoredDraft } from "../../store/drafts";
import { DraftSaver, type KeptDraft, type SendResult } from "./draft-saver";

const line = (title: string) => baseDesign({ title });
const stored = (title: string, version: number): StoredDraft => ({ design: line(title), version, savedAt: null });
const flushed = async () => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};

/** A server that stores drafts as ours does, and answers when it is told to. */
class Server {
  current = stored("first", 1);
  readonly sent: { design: KindDesign; seen: number; keepalive: boolean }[] = [];
  private readonly waiting: ((answer: "arrive" | "lost" | "late") => void)[] = [];

  readonly send = (design: KindDesign, seen: number, keepalive: boolean): Promise<SendResult> => {
    this.sent.push({ design, seen, keepalive });
    return new Promise((resolve, reject) => {
      this.waiting.push((answer) => {
        if (answer === "lost") return reject(new TypeError("fetch failed"));
        const result = this.store(design, seen);
        // The draft arrived, the word of it did not.
        if (answer === "late") reject(new TypeError("fetch failed"));
        else resolve(result);
      });
    });
  };

  store(design: KindDesign, seen: number): SendResult {
    const isSame = JSON.stringify(design) === JSON.stringify(this.current.design);
    if (this.current.version > seen && !isSame) return { conflict: this.current };
    if (!isSame) this.current = { design, version: this.current.version + 1, savedAt: null };
    return { saved: this.current };
  }

  get open(): number {
    return this.waiting.length;
  }

  async answer(how: "arrive" | "lost" | "late" = "arrive"): Promise<void> {
    this.waiting.shift()!(how);
    await flushed();
  }
}

let server: Server;
let saver: DraftSaver;
let kept: KeptDraft | null;
/** How often it was told that both changes stand together. */
let told = 0;
const titleOf = (of: { design: KindDesign } | null | undefined) => of?.design.base.title;

function open(): void {
  kept = null;
  told = 0;
  saver = new DraftSaver(server.current, {
    send: server.send,
    keeper: { put: (own) => (kept = own), forget: () => (kept = null) },
    isPassing: (error) => error instanceof TypeError,
    onStored: () => {},
    onBoth: () => void told++,
  });
}

beforeEach(() => {
  vi.useFakeTimers();
  server = new Server();
  open();
});
afterEach(() => vi.useRealTimers());
const pause = async () => {
  await vi.advanceTimersByTimeAsync(400);
};

describe("a draft that is typed", () => {
  it("is sent when typing pauses, once, and is kept in the browser until then", async () => {
    for (const title of ["a", "ab", "abc"]) saver.change(line(title));
    expect(server.sent).toEqual([]);
    expect(titleOf(kept)).toBe("abc");
    await pause();
    expect(server.sent.map(titleOf)).toEqual(["abc"]);
    expect(saver.current().state).toBe("saving");
    expect(titleOf(kept)).toBe("abc");
    await server.answer();
    expect([saver.current().state, kept]).toEqual(["stored", null]);
  });

  it("loses nothing of three quick changes while a save is slow, and says stored only when all is", async () => {
    saver.change(line("one"));
    await pause();
    saver.change(line("two"));
    await pause();
    saver.change(line("three"));
    await pause();
    // One is under way; the newest waits, and what was between is needless.
    expect(server.sent.map(titleOf)).toEqual(["one"]);
    await server.answer();
    expect(saver.current().state).toBe("saving");
    expect(titleOf(kept)).toBe("three");
    expect(server.sent.map(titleOf)).toEqual(["one", "three"]);
    await server.answer();
    expect(saver.current().state).toBe("stored");
    expect(titleOf(server.current)).toBe("three");
  });

  it("is sent again when the server cannot be reached, and again, until it is", async () => {
    saver.change(line("typed"));
    await pause();
    await server.answer("lost");
    expect(saver.current().state).toBe("offline");
    expect(titleOf(kept)).toBe("typed");
    await vi.advanceTimersByTimeAsync(1000);
    await server.answer("lost");
    await vi.advanceTimersByTimeAsync(2000);
    await server.answer();
    expect(server.sent.map(titleOf)).toEqual(["typed", "typed", "typed"]);
    expect([saver.current().state, kept, titleOf(server.current)]).toEqual(["stored", null, "typed"]);
  });

  it("goes at once when the connection is back", async () => {
    saver.change(line("typed"));
    await pause();
    await server.answer("lost");
    saver.flush(false);
    await server.answer();
    expect(saver.current().state).toBe("stored");
  });

  it("is no conflict with itself where it arrived and the word of it was lost", async () => {
    saver.change(line("typed"));
    await pause();
    await server.answer("late");
    saver.change(line("typed on"));
    await vi.advanceTimersByTimeAsync(1000);
    // The server has “typed” from us, which we do not know of: it is told as another window’s.
    await server.answer();
    expect(saver.current().state).toBe("conflict");
    saver.keepMine();
    await server.answer();
    expect([saver.current().state, titleOf(server.current)]).toEqual(["stored", "typed on"]);
  });

  it("is not sent again and again where the server refuses it, and is when it is changed", async () => {
    const refusing = new DraftSaver(server.current, {
      send: () => Promise.reject(new RangeError("too many rules")),
      keeper: { put: (own) => (kept = own), forget: () => (kept = null) },
      isPassing: () => false,
      onStored: () => {},
      onBoth: () => {},
    });
    refusing.change(line("typed"));
    await pause();
    await flushed();
    expect(refusing.current()).toMatchObject({ state: "refused", message: "too many rules" });
    await vi.advanceTimersByTimeAsync(60_000);
    expect(titleOf(kept)).toBe("typed");
    refusing.change(line("shorter"));
    expect(refusing.current()).toMatchObject({ state: "saving", message: null });
  });
});

describe("another window’s draft", () => {
  beforeEach(async () => {
    server.store(line("theirs"), 1);
    saver.change(line("mine"));
    await pause();
    await server.answer();
  });

  it("is told, and typing goes on without anything being sent", async () => {
    expect(saver.current()).toMatchObject({ state: "conflict", theirs: { version: 2 } });
    saver.change(line("mine still"));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(server.sent).toHaveLength(1);
    expect(titleOf(kept)).toBe("mine still");
    expect(titleOf(saver.current().theirs)).toBe("theirs");
  });

  it("is taken: what is shown is theirs, and nothing is sent", async () => {
    saver.takeTheirs();
    expect([titleOf(saver.current()), saver.current().state, kept]).toEqual(["theirs", "stored", null]);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(server.sent).toHaveLength(1);
  });

  it("is written over by what is shown now, if that is what is wanted", async () => {
    saver.change(line("mine still"));
    saver.keepMine();
    await server.answer();
    expect([titleOf(server.current), saver.current().state]).toEqual(["mine still", "stored"]);
  });
});

describe("another window’s draft that has other things changed", () => {
  const both = (title: string, slug: string): KindDesign => baseDesign({ title, slug });

  it("stands together with what is typed here, which goes on", async () => {
    saver.change(both("first", "mine"));
    await pause();
    server.store(line("theirs"), 1);
    saver.change(both("first", "mine still"));
    await server.answer();
    expect(saver.current()).toMatchObject({ state: "saving", theirs: null, design: both("theirs", "mine still") });
    expect([kept?.design, told]).toEqual([both("theirs", "mine still"), 1]);
    await server.answer();
    expect([saver.current().state, kept, server.current.design]).toEqual([
      "stored",
      null,
      both("theirs", "mine still"),
    ]);
  });

  it("is met as often as it is another one, and is a conflict as soon as both changed one thing", async () => {
    saver.change(both("first", "mine"));
    await pause();
    server.store(line("theirs"), 1);
    await server.answer();
    server.store(both("theirs again", "theirs"), 2);
    await server.answer();
    expect([saver.current().state, told]).toEqual(["conflict", 1]);
    expect(kept?.design).toEqual(both("theirs", "mine"));
  });

  it("is asked about where it is not known what both went on from", async () => {
    server.store(line("theirs"), 1);
    open();
    saver.takeUp({ design: both("first", "left"), seen: 1, sending: null });
    await server.answer();
    expect([saver.current().state, told]).toEqual(["conflict", 0]);
  });
});

describe("what a window that is gone left", () => {
  it("is taken up and stored", async () => {
    saver.takeUp({ design: line("left"), seen: 1, sending: null });
    expect(titleOf(saver.current())).toBe("left");
    await server.answer();
    expect(titleOf(server.current)).toBe("left");
  });

  it("goes on from what was on its way then and arrived", async () => {
    server.store(line("on its way"), 1);
    open();
    saver.takeUp({ design: line("left"), seen: 1, sending: line("on its way") });
    await server.answer();
    expect([saver.current().state, titleOf(server.current)]).toEqual(["stored", "left"]);
  });

  it("is told where another window stored something else since", async () => {
    server.store(line("theirs"), 1);
    open();
    saver.takeUp({ design: line("left"), seen: 1, sending: null });
    await server.answer();
    expect(saver.current().state).toBe("conflict");
    expect(titleOf(kept)).toBe("left");
  });
});

describe("what a window that is gone left, where one has typed already", () => {
  const slug = (title: string, own: string): KindDesign => baseDesign({ title, slug: own });
  const together = slug("left", "mine");
  /** The page is loaded anew while what was typed is on its way: it has the draft of before, and one goes on typing. */
  const left = (sending = true): KeptDraft => ({
    design: line("left"),
    seen: 1,
    sending: sending ? line("left") : null,
  });
  const takeUp = (kept: KeptDraft) => saver.canTakeUp(kept) && saver.takeUp(kept);

  it("stays beneath it, when it arrives on its way", async () => {
    saver.change(slug("first", "mine"));
    server.store(line("left"), 1);
    takeUp(left());
    expect(saver.current().design).toEqual(together);
    await server.answer();
    await server.answer();
    expect([saver.current().state, kept]).toEqual(["stored", null]);
    expect(server.current.design).toEqual(together);
  });

  it("stays beneath it, when it is found after it arrived and was in the way", async () => {
    server.store(line("left"), 1);
    saver.change(slug("first", "mine"));
    await pause();
    await server.answer();
    expect(saver.current()).toMatchObject({ state: "saving", design: together });
    await server.answer();
    takeUp(left());
    await server.answer();
    expect([saver.current().state, kept]).toEqual(["stored", null]);
    expect(server.current.design).toEqual(together);
  });

  it("stays beneath it, when it never arrived and what was typed since is stored", async () => {
    saver.change(slug("first", "mine"));
    await pause();
    await server.answer();
    expect(saver.current().state).toBe("stored");
    takeUp(left(false));
    await server.answer();
    expect(saver.current().state).toBe("stored");
    expect(server.current.design).toEqual(together);
  });

  it("is no excuse where another window stored something else", async () => {
    server.store(line("theirs"), 1);
    saver.change(slug("first", "mine"));
    takeUp(left());
    await server.answer();
    expect([saver.current().state, saver.current().design]).toEqual(["conflict", together]);
    expect(kept?.design).toEqual(together);
    expect(server.open).toBe(0);
    saver.keepMine();
    await server.answer();
    expect(server.current.design).toEqual(together);
  });

  it("stays for the next window where what another window stored of the same line is shown by now", async () => {
    server.store(line("theirs"), 1);
    saver.change(slug("first", "mine"));
    await pause();
    await server.answer();
    expect(saver.current().design).toEqual(slug("theirs", "mine"));
    expect(saver.canTakeUp(left())).toBe(false);
  });

  it("stays for the next window where it goes on from another draft than this one did", () => {
    saver.change(slug("first", "mine"));
    expect(saver.canTakeUp({ ...left(), seen: 0 })).toBe(false);
    expect(saver.canTakeUp({ ...left(), seen: 0, sending: line("first") })).toBe(true);
  });

  it("stays for the next window where both are of one line: neither is written over", () => {
    saver.change(line("mine"));
    expect(saver.canTakeUp(left())).toBe(false);
  });
});

describe("however answers come", () => {
  it("“stored” is true, nothing typed is ever in neither place, and the last thing typed is what is stored at the end", async () => {
    const step = fc.oneof(
      { weight: 4, arbitrary: fc.record({ do: fc.constant("type" as const), text: fc.string({ maxLength: 4 }) }) },
      { weight: 2, arbitrary: fc.record({ do: fc.constant("wait" as const), ms: fc.integer({ min: 1, max: 1500 }) }) },
      {
        weight: 3,
        arbitrary: fc.record({
          do: fc.constant("answer" as const),
          how: fc.constantFrom("arrive" as const, "lost" as const),
        }),
      },
      { weight: 1, arbitrary: fc.record({ do: fc.constant("flush" as const) }) },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 40 }), async (steps) => {
        server = new Server();
        open();
        let typed = "first";
        for (const own of steps) {
          if (own.do === "type") saver.change(line((typed = own.text)));
          if (own.do === "wait") await vi.advanceTimersByTimeAsync(own.ms);
          if (own.do === "flush") saver.flush(true);
          if (own.do === "answer" && server.open > 0) await server.answer(own.how);
          expect(server.open).toBeLessThanOrEqual(1);
          if (saver.current().state === "stored") expect(titleOf(server.current)).toBe(typed);
          else expect(titleOf(kept)).toBe(typed);
        }
        for (let i = 0; i < 50 && saver.current().state !== "stored"; i++) {
          if (server.open > 0) await server.answer();
          await vi.advanceTimersByTimeAsync(5000);
        }
        expect([saver.current().state, titleOf(server.current), kept]).toEqual(["stored", typed, null]);
      }),
      { numRuns: 400 },
    );
  });
});
