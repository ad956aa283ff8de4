import { afterEach, describe, expect, it } from "vitest";
import { addJob, beginJob, readJob, type StoredJob } from "../../store/jobs";
import { openStore } from "../../store/open";
import { CancelledCall } from "../threads/call";
import { JobQueue, type JobEnd, type JobWork } from "./job-queue";

const now = () => "2026-11-25T10:00:00Z";
const queues: JobQueue[] = [];
afterEach(() => queues.splice(0).forEach((queue) => queue.close()));

/** A queue whose jobs end when they are told to. */
function controlled() {
  const db = openStore(":memory:");
  const begun: string[] = [];
  const running = new Map<string, { end: (end: JobEnd) => void; fail: (error: Error) => void; work: JobWork }>();
  const worker = (params: { name: string }, work: JobWork): Promise<JobEnd> => {
    begun.push(params.name);
    return new Promise((end, fail) => {
      running.set(params.name, { end, fail, work });
      work.signal.addEventListener("abort", () => fail(new CancelledCall()));
    });
  };
  const queue = new JobQueue(
    db,
    { run: worker, import: worker, "import-back": worker, edit: worker, keywords: worker, look: worker, check: worker },
    now,
  );
  queues.push(queue);
  const add = (name: string, type: StoredJob["type"] = "edit") =>
    queue.add({ type, label: `Job ${name}`, params: { name }, total: 10, begunBy: "a window" });
  return { db, queue, add, begun, running };
}

describe("jobs", () => {
  it("are done one after another in the order in which they were asked for, of whatever type", async () => {
    const { queue, add, begun, running } = controlled();
    const [a, b, c] = [add("a", "import"), add("b", "run"), add("c")];
    expect(begun).toEqual(["a"]);
    expect(queue.open().map(({ state }) => state)).toEqual(["running", "waiting", "waiting"]);
    running.get("a")!.end({ state: "done", result: { rows: 3 } });
    await expect(queue.ended(a.id)).resolves.toMatchObject({ state: "done", result: { rows: 3 }, done: 10 });
    expect(begun).toEqual(["a", "b"]);
    running.get("b")!.fail(new Error("The disk is full"));
    await expect(queue.ended(b.id)).resolves.toMatchObject({ state: "failed", message: "The disk is full" });
    running.get("c")!.end({ state: "stopped" });
    await expect(queue.ended(c.id)).resolves.toMatchObject({ state: "stopped", message: null });
    expect(queue.open()).toEqual([]);
    expect(queue.list().map(({ id }) => id)).toEqual([c.id, b.id, a.id]);
  });

  it("say how far they are, at once to who asks and at the end in the store", async () => {
    const { db, queue, add, running } = controlled();
    const { id } = add("a");
    running.get("a")!.work.tell({ done: 4, result: { refused: 1 } });
    expect(queue.read(id)).toMatchObject({ state: "running", done: 4, result: { refused: 1 } });
    running.get("a")!.end({ state: "stopped" });
    await queue.ended(id);
    expect(readJob(db, id)).toMatchObject({ state: "stopped", done: 4, result: { refused: 1 }, begunBy: "a window" });
  });

  it("are stopped: one under way ends where it is, one that waits never begins", async () => {
    const { queue, add, begun } = controlled();
    const [a, b] = [add("a"), add("b")];
    queue.stop(b.id);
    expect(queue.read(b.id).state).toBe("stopped");
    queue.stop(a.id);
    await expect(queue.ended(a.id)).resolves.toMatchObject({ state: "stopped" });
    expect(begun).toEqual(["a"]);
    queue.stop(a.id);
    expect(queue.read(a.id).state).toBe("stopped");
  });

  it("are waited for no longer than is wanted", async () => {
    const { queue, add, running } = controlled();
    const { id } = add("a");
    await expect(queue.ended(id, 5)).resolves.toMatchObject({ state: "running" });
    running.get("a")!.end({ state: "done" });
    await expect(queue.ended(id, 5000)).resolves.toMatchObject({ state: "done" });
    await expect(queue.ended(99)).rejects.toMatchObject({ code: "not-found" });
  });

  it("that a kill interrupted are stopped at the next start, and say whether they had begun", () => {
    const db = openStore(":memory:");
    const job = { type: "run", label: "Run 1", params: {}, total: null, begunBy: "x" } as const;
    const [running, waiting] = [addJob(db, job, now()), addJob(db, job, now())];
    beginJob(db, running.id, now());
    const none = () => Promise.reject(new Error("nothing is begun"));
    queues.push(
      new JobQueue(
        db,
        {
          run: none,
          import: none,
          "import-back": none,
          edit: none,
          keywords: none,
          look: none,
          check: none,
        },
        now,
      ),
    );
    expect([running, waiting].map(({ id }) => readJob(db, id)!)).toMatchObject([
      { state: "stopped", message: "The server was ended while this was under way" },
      { state: "stopped", message: "The server was ended before this began" },
    ]);
  });
});
