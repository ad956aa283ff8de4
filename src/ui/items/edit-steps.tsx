"use client";
import { PLAIN_ACTION } from "../shell/actions";
import { type Edits } from "../shell/edits";
import { count } from "../shell/format";
import { stopJob } from "../shell/jobs";

/** A large step under way, or one that was stopped half-way. */
export function EditSteps({ edits }: { edits: Edits }) {
  const { running, steps } = edits;
  if (running) {
    return (
      <div className="flex items-center gap-3 border-t border-key bg-raised px-4 py-2" role="status">
        <span>
          {running.label}: {count(running.done)} of {count(running.total ?? 0)}
        </span>
        <progress className="h-1.5 flex-1" max={running.total ?? 1} value={running.done} aria-label={running.label} />
        <button type="button" className={PLAIN_ACTION} onClick={() => stopJob(running.id)}>
          Stop
        </button>
      </div>
    );
  }
  const { stopped } = steps;
  if (!stopped) return null;
  const done = stopped.total - stopped.skipped - stopped.waiting;
  return (
    <div className="flex items-center gap-3 border-t border-magenta bg-raised px-4 py-2" role="alert">
      <span>
        {stopped.goal === "set" ? stopped.label : `Undoing: ${stopped.label}`} was stopped at {count(done)} of{" "}
        {count(stopped.total)}
      </span>
      <span className="ml-auto flex gap-2">
        <button type="button" className={PLAIN_ACTION} onClick={() => void edits.go(stopped.id, stopped.goal)}>
          Continue
        </button>
        <button
          type="button"
          className={PLAIN_ACTION}
          onClick={() => void edits.go(stopped.id, stopped.goal === "set" ? "undone" : "set")}
        >
          {stopped.goal === "set" ? "Undo it" : "Redo it"}
        </button>
      </span>
    </div>
  );
}
