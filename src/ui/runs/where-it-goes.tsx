"use client";
import { useRef } from "react";
import type { CallResult } from "../../server/api/contract";
import type { StoredJob } from "../../store/jobs";
import { useTimeLeft } from "../bring-in/time-left";
import { count } from "../shell/format";
import Link from "../shell/link";
import { useSite } from "../shell/site-context";
import { useCall } from "../shell/queries";

type Run = CallResult<"runs.read">;

/** Whether a run goes to the live site or is applied here, and how far its changes are there. */
export function WhereItGoes({ run: shown, job }: { run: Run; job: StoredJob | null }) {
  const { state } = useSite();
  const isOverWire = shown.wire !== null;
  // While it is under way its figures are asked for again with each step of the job.
  const { answer } = useCall(
    "runs.read",
    isOverWire ? { id: shown.id } : null,
    `${job?.done ?? "ended"} ${shown.status}`,
  );
  const run = answer?.id === shown.id ? answer : shown;
  const left = useTimeLeft(job?.done ?? 0, job?.total ?? null);
  const pace = usePace(job);
  if (!run.wire)
    return (
      <p className="text-soft">Applied here. Its files carry it to the site, which has no connection that writes.</p>
    );
  const { sent, refused, changed } = run.wire;
  const rows: readonly { label: string; value: number; isBad?: boolean }[] = [
    { label: "Confirmed by the site", value: run.applied },
    { label: "Waiting", value: run.waiting },
    { label: "Pages sent, not confirmed yet", value: sent },
    { label: "Refused by the site", value: refused, isBad: true },
    { label: "Changed on the site meanwhile", value: changed, isBad: true },
  ];
  return (
    <section aria-label="On the live site" className="border-t border-hair pt-2">
      <p className="font-semibold">{run.type === "apply" ? "Goes to the live site" : "Undone on the live site"}</p>
      <dl>
        {rows.map(({ label, value, isBad }) => (
          <div key={label} className="flex justify-between gap-3 py-0.5">
            <dt className="text-soft">{label}</dt>
            <dd className={isBad && value > 0 ? "font-bold text-magenta" : ""}>{count(value)}</dd>
          </div>
        ))}
      </dl>
      {job && (pace !== null || left !== null) && (
        <p className="text-soft">
          {[pace !== null && `${count(pace)} changes a second`, left].filter(Boolean).join(", ")}
        </p>
      )}
      {!job && run.applied > 0 && (
        <p className="mt-1">
          <Link href="/live" className="underline underline-offset-4">
            Check what is live
          </Link>
        </p>
      )}
      {run.redirects > 0 && state.connection?.redirects === false && (
        <p className="mt-1 font-semibold">
          The connection does not say how redirects are made: export them below and put them on the site.
        </p>
      )}
      {!job && sent > 0 && (
        <p className="mt-1 text-soft">
          Continue the run: what was sent and not confirmed is read on the site before anything is sent again.
        </p>
      )}
      {!job && refused + changed > 0 && (
        <p className="mt-1 text-soft">
          What was refused or changed stays as the site has it; the reason stands beside each change.
        </p>
      )}
    </section>
  );
}

/** How many changes a second there were since it was first watched; `null` before that can be told. */
function usePace(job: StoredJob | null): number | null {
  const first = useRef<{ readonly at: number; readonly done: number } | null>(null);
  if (!job) first.current = null;
  else first.current ??= { at: Date.now(), done: job.done };
  if (!job || !first.current) return null;
  const seconds = (Date.now() - first.current.at) / 1000;
  return seconds < 1 ? null : Math.round((job.done - first.current.done) / seconds);
}
