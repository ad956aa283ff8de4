"use client";
import { PLAIN_ACTION } from "../shell/actions";
import Link from "../shell/link";
import { FileLinks } from "./file-links";
import { ago, count, counted, when } from "../shell/format";
import { runOfJob, isOpenJob, useJobs } from "../shell/jobs";
import { Trouble } from "../shell/trouble";
import { RunActions, runState, RunProgressLine } from "./run-actions";
import { Imports } from "./imports";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { Term } from "../shell/term";
import { SIDEWAYS } from "../shell/sideways";

/** Every run: when, what, how many; each can be looked at, taken out and taken back. */
export function Runs() {
  const jobs = useJobs();
  const { state } = useSite();
  const stamp = `${state.revision} ${state.runs} ${jobs.map((job) => `${job.id} ${job.state}`).join()}`;
  const { answer, error, retry: load } = useCall("runs.list", {}, stamp);
  const runs = answer?.runs ?? null;
  return (
    <div className="h-full overflow-auto px-6 py-4">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h1 className="text-[22px] font-bold">Runs</h1>
        <p className="text-soft">
          Everything applied and imported, newest first. Undoing a <Term of="run">run</Term> is a run of its own.
        </p>
        <span className="ml-auto flex flex-wrap gap-2 small:ml-0">
          <FileLinks what="All pages" href="/api/out/items" formats={["csv", "jsonl"]} />
          <Link href="/addresses?face=redirects" className={PLAIN_ACTION}>
            All redirects
          </Link>
        </span>
      </div>
      {error && <Trouble message={error} onRetry={load} />}
      {runs && runs.length === 0 && (
        <p className="mt-8 text-soft">
          Nothing applied yet. Design lines on the{" "}
          <Link href="/bench" className="underline">
            Bench
          </Link>
          , then read the change in{" "}
          <Link href="/review" className="underline">
            Review
          </Link>{" "}
          and apply it.
        </p>
      )}
      {runs && runs.length > 0 && (
        <div className={`mt-4 ${SIDEWAYS}`}>
          <table className="w-full border-collapse bg-sheet">
            <thead>
              <tr className="border-b border-key text-left">
                {[
                  "Run",
                  "When",
                  "What",
                  "Pages",
                  "Titles",
                  "Descriptions",
                  "Slugs",
                  "Robots",
                  "Redirects",
                  "State",
                  "",
                ].map((heading, i) => (
                  <th key={i} scope="col" className={`px-3 py-2 font-semibold ${i >= 3 && i <= 8 ? "text-right" : ""}`}>
                    {heading || <span className="sr-only">Actions</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {runs.map((run) => {
                const job = jobs.find((j) => runOfJob(j) === run.id && isOpenJob(j));
                return (
                  <tr key={run.id} className="border-b border-hair align-top hover:bg-raised">
                    <td className="px-3 py-2.5">
                      <Link
                        href={`/runs/${run.id}`}
                        aria-label={`Run ${run.id}${run.name ? `: ${run.name}` : ""}`}
                        className="font-bold underline decoration-hair underline-offset-4 hover:decoration-key"
                      >
                        {run.id}
                      </Link>
                    </td>
                    <td className="px-3 py-2.5">
                      {when(run.created_at)} <span className="block text-[12px] text-soft">{ago(run.created_at)}</span>
                    </td>
                    <td className="px-3 py-2.5">
                      {run.name !== "" && <span className="block font-semibold">{run.name}</span>}
                      {run.note}
                    </td>
                    {[run.items, run.titles, run.descriptions, run.slugs, run.robots, run.redirects].map((value, i) => (
                      <td key={i} className="px-3 py-2.5 text-right">
                        {value === 0 ? <span className="text-faint">–</span> : count(value)}
                      </td>
                    ))}
                    <td className="px-3 py-2.5">
                      {job ? <RunProgressLine done={job.done} total={job.total ?? 0} /> : runState(run)}
                      {run.skipped > 0 && (
                        <span className="block text-[12px] text-magenta">
                          {counted(run.skipped, "change", "changes")} skipped
                        </span>
                      )}
                    </td>
                    <td className="px-3 py-2">
                      <RunActions run={run} job={job ?? null} onDone={load} />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      <Imports jobs={jobs} stamp={stamp} />
    </div>
  );
}
