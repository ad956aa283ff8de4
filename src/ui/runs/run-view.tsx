"use client";
import { counted } from "../shell/format";
import { isOpenJob, runOfJob, useJobs } from "../shell/jobs";
import Link from "../shell/link";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { RunChangesList } from "./run-changes";
import { type Run, RunFacts } from "./run-facts";
import { useRunChanges } from "./use-run-changes";

/** One run: how far it is, what it changed, and the way back. */
export function RunView({ id }: { id: number }) {
  const { state } = useSite();
  const ofRun = useJobs().filter((job) => runOfJob(job) === id);
  const job = ofRun.find(isOpenJob) ?? null;
  const failure = ofRun.find((own) => own.state === "failed")?.message ?? null;
  const { answer: run, error, retry } = useCall("runs.read", { id }, `${state.revision} ${state.runs} ${job === null}`);
  const listed = useRunChanges(id, run && changesStamp(run, state.settings));
  if (error && !run) {
    return (
      <p role="alert" className="p-8 text-magenta">
        {error}.{" "}
        <Link href="/runs" className="underline">
          All runs
        </Link>
      </p>
    );
  }
  const total = run && run.waiting + run.applied + run.skipped;
  return (
    <div className="desk [--columns:272px_minmax(0,1fr)]">
      <aside
        aria-label="The run"
        className="desk-first desk-steady min-h-0 space-y-3 overflow-auto border-r border-hair px-4 py-4"
      >
        <p>
          <Link href="/runs" className="text-soft underline underline-offset-4">
            All runs
          </Link>
        </p>
        <h1 className="text-[20px] font-bold">
          Run {id}
          {run?.name && <span className="block text-[15px] font-semibold">{run.name}</span>}
        </h1>
        {run && <RunFacts run={run} job={job} failure={failure} onDone={retry} />}
      </aside>
      <section aria-label="Changes" className="desk-list flex min-h-0 min-w-0 flex-col bg-sheet">
        <div className="flex items-baseline gap-3 border-b border-key bg-raised px-5 py-2.5">
          <h2 className="font-bold">What it changed</h2>
          {total !== null && <span className="text-soft">{counted(total, "change", "changes")}</span>}
        </div>
        <RunChangesList listed={listed} total={total} site={state.site!} />
      </section>
    </div>
  );
}

/** What the changes of a run rest on: how far it is, but while it runs, and the settings, which widths are told by. */
function changesStamp({ status, applied, skipped }: Run, settings: number): string {
  return `${status === "running" ? status : `${status} ${applied} ${skipped}`} ${settings}`;
}
