"use client";
import { useRouter } from "../shell/site-path";
import { useState } from "react";
import { toast } from "sonner";
import type { StoredJob } from "../../store/jobs";
import type { RunFigures } from "../../store/runs";
import { call, wordsOf } from "../shell/api";
import { count, counted, when } from "../shell/format";
import { stopJob, watchJobs } from "../shell/jobs";
import { useSite } from "../shell/site-context";
import { PLAIN_ACTION } from "../shell/actions";

/** A state of a run: what is said of it, and what can be done then. */
interface RunState {
  readonly words: (run: RunFigures) => string;
  readonly canGoOn: boolean;
}

const RUN_STATES: Record<RunFigures["status"], RunState> = {
  ready: {
    words: ({ due_at }) => (due_at === null ? "Ready, nothing applied yet" : `Goes out on ${when(due_at)}`),
    canGoOn: true,
  },
  running: { words: () => "Running", canGoOn: false },
  stopped: {
    words: ({ applied, skipped, waiting }) =>
      `Stopped at ${count(applied + skipped)} of ${count(applied + skipped + waiting)}`,
    canGoOn: true,
  },
  done: { words: doneWords, canGoOn: false },
};

function doneWords(run: RunFigures): string {
  if (run.type === "take-back") return `Done: run ${run.of_run} is undone`;
  // Pages below one that moves are rows of the run, but no changes that a person took in.
  const { titles, descriptions, slugs, robots, alts, keywords, bodies } = run;
  const along = run.changes - titles - descriptions - slugs - robots - alts - keywords - bodies;
  return `Done: ${counted(run.applied, "change", "changes")}${along > 0 ? `, ${counted(along, "page that moves along", "pages that move along")} among them` : ""}`;
}

/** What state a run is in, in words. */
export function runState(run: RunFigures): string {
  return run.taken_back_by === null ? RUN_STATES[run.status].words(run) : `Undone by run ${run.taken_back_by}`;
}

export function RunProgressLine({ done, total }: { done: number; total: number }) {
  return (
    <span className="block w-44">
      <progress value={done} max={Math.max(1, total)} aria-label="Progress of the run" className="block h-1.5 w-full" />
      <span role="status" className="text-[12px] text-soft">
        {count(done)} of {count(total)}
      </span>
    </span>
  );
}

/** What can be done with a run as it stands: stop it, go on with it, take it back. */
export function RunActions({ run, job, onDone }: { run: RunFigures; job: StoredJob | null; onDone: () => void }) {
  const router = useRouter();
  const { refresh } = useSite();
  const [busy, setBusy] = useState(false);
  const act = async (action: "runs.goOn" | "runs.takeBack") => {
    setBusy(true);
    try {
      const answer = await call(action, { id: run.id });
      watchJobs();
      onDone();
      if (action === "runs.takeBack") router.push(`/runs/${answer.run}`);
    } catch (error) {
      toast.error(wordsOf(error));
    } finally {
      setBusy(false);
    }
  };
  const unschedule = async () => {
    setBusy(true);
    try {
      await call("runs.schedule", { id: run.id, dueAt: null });
      // All that tells of runs asks anew.
      await refresh().catch(onDone);
    } catch (error) {
      toast.error(wordsOf(error));
    } finally {
      setBusy(false);
    }
  };
  if (job) {
    return (
      <button type="button" className={PLAIN_ACTION} onClick={() => stopJob(job.id)}>
        Stop
      </button>
    );
  }
  return (
    <span className="flex gap-2">
      {RUN_STATES[run.status].canGoOn && run.taken_back_by === null && (
        <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => void act("runs.goOn")}>
          {run.due_at === null ? "Continue" : "Apply now"}
        </button>
      )}
      {run.status === "ready" && run.due_at !== null && (
        <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => void unschedule()}>
          Do not apply by itself
        </button>
      )}
      {run.type === "apply" && run.taken_back_by === null && run.applied > 0 && (
        <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => void act("runs.takeBack")}>
          Undo
        </button>
      )}
    </span>
  );
}
