import { describe, expect, it } from "vitest";
import { type JobType } from "../../store/jobs";
import { openStore } from "../../store/open";
import { CancelledCall } from "../threads/call";
import { JobQueue, type JobWorker } from "../jobs/job-queue";
import { type OpenedSite } from "../workspace/opened-site";
import { RunClicks } from "./run-clicks";
import { runWorker } from "./run-work";

describe("a run that goes out over the wire", () => {
  it("gives way to what a person waits for, and goes on behind it", async () => {
    const db = openStore(":memory:");
    db.prepare(
      "INSERT INTO runs (type, status, note, design, created_at, over_wire, changes) VALUES ('apply', 'ready', '', '{}', '', 1, 2)",
    ).run();
    const order: string[] = [];
    let sends = 0;
    const site = {
      db,
      clicks: new RunClicks(),
      now: () => "2026-11-27T10:00:00Z",
      writer: {
        call: (_: string, __: unknown, { signal }: { signal: AbortSignal }) =>
          new Promise<string>((resolve) => {
            order.push(`send ${++sends}`);
            if (sends === 2) return resolve("done");
            signal.addEventListener("abort", () => resolve("stopped"));
          }),
      },
    } as unknown as OpenedSite;
    const edit: JobWorker = () => {
      order.push("edit");
      return Promise.resolve({ state: "done" });
    };
    const none: JobWorker = () => Promise.reject(new CancelledCall());
    const workers: Record<JobType, JobWorker> = {
      run: runWorker(site) as JobWorker,
      edit,
      import: none,
      "import-back": none,
      keywords: none,
      look: none,
      check: none,
    };
    const jobs = new JobQueue(db, workers, site.now);
    (site as { jobs: JobQueue }).jobs = jobs;
    jobs.add({ type: "run", label: "Run 1", params: { do: "go-on", run: 1 }, total: 2, begunBy: "x" });
    const { id } = jobs.add({ type: "edit", label: "Edit", params: {}, total: 1, begunBy: "x" });
    expect((await jobs.ended(id)).state).toBe("done");
    await expect.poll(() => jobs.open().length, { timeout: 10_000 }).toBe(0);
    expect(order).toEqual(["send 1", "edit", "send 2"]);
    expect(jobs.list().map(({ label, state }) => [label, state])).toEqual([
      ["Run 1", "done"],
      ["Edit", "done"],
      ["Run 1", "stopped"],
    ]);
    jobs.close();
    db.close();
  });
});
