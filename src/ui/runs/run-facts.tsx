import { type CallResult } from "../../server/api/contract";
import { type StoredJob } from "../../store/jobs";
import { count, when } from "../shell/format";
import { FileLinks } from "./file-links";
import { RunActions, RunProgressLine, runState } from "./run-actions";
import { WhereItGoes } from "./where-it-goes";

export type Run = CallResult<"runs.read">;

/** What a run is about, how far it is, and what can be done with it. */
export function RunFacts({
  run,
  job,
  failure,
  onDone,
}: {
  run: Run;
  /** The work on it that is under way. */
  job: StoredJob | null;
  /** Why the last work on it ended. */
  failure: string | null;
  onDone: () => void;
}) {
  return (
    <>
      <p className="text-soft">
        {when(run.created_at)}
        <br />
        {run.note}
      </p>
      {job ? (
        <RunProgressLine done={job.done} total={job.total ?? 0} />
      ) : (
        <p role="status" className="font-semibold">
          {runState(run)}
        </p>
      )}
      {failure && (
        <p role="alert" className="text-magenta">
          {failure}
        </p>
      )}
      <RunActions run={run} job={job} onDone={onDone} />
      <WhereItGoes run={run} job={job} />
      <RunCounts run={run} />
      <div className="flex flex-wrap gap-2 border-t border-hair pt-3">
        <FileLinks what="Changes" href={`/api/out/changes?run=${run.id}`} />
        {run.alts + run.bodies > 0 && <FileLinks what="Changed bodies" href={`/api/out/bodies?run=${run.id}`} />}
        {run.redirects > 0 && <FileLinks what="Redirects" href={`/api/out/redirects?run=${run.id}`} />}
      </div>
      <p className="text-[12px] text-soft">
        In CSV, a text that a spreadsheet would run as a formula gets an apostrophe in front; the last column names the
        cells.
      </p>
    </>
  );
}

function RunCounts({ run }: { run: Run }) {
  const counts = {
    Pages: run.items,
    Titles: run.titles,
    Descriptions: run.descriptions,
    Slugs: run.slugs,
    "Robots settings": run.robots,
    "Image descriptions": run.alts,
    "Meta keywords": run.keywords,
    "Links in bodies": run.bodies,
    Redirects: run.redirects,
  };
  // What the live site refused or had changed is told of apart.
  const skipped = run.skipped - (run.wire ? run.wire.refused + run.wire.changed : 0);
  return (
    <dl className="border-t border-hair pt-2">
      {Object.entries(counts).map(([label, value]) => (
        <div key={label} className="flex justify-between py-0.5">
          <dt className="text-soft">{label}</dt>
          <dd>{count(value)}</dd>
        </div>
      ))}
      <div className="flex justify-between py-0.5">
        <dt className="text-soft">Skipped</dt>
        <dd className={skipped > 0 ? "font-bold text-magenta" : ""}>{count(skipped)}</dd>
      </div>
    </dl>
  );
}
