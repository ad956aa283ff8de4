"use client";
import { useState } from "react";
import { type LiveFinding } from "../../core/live/finding-words";
import type { CallInput } from "../../server/api/contract";
import type { CheckProgress } from "../../server/live/check-live";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count, counted, when } from "../shell/format";
import { isOpenJob, stopJob, useJobs, watchJobs } from "../shell/jobs";
import Link from "../shell/link";
import { useCall } from "../shell/queries";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { LivePages } from "./live-pages";
import { ThemeNotes } from "./theme-notes";

type Scope = CallInput<"live.check">["scope"];

/** So many pages, spread over the site, tell what a theme does to all of them. */
const SAMPLE = 400;

/** What visitors and search engines get, held against what was meant. */
export function LiveView() {
  const { state } = useSite();
  const [error, setError] = useState<string | null>(null);
  const [finding, setFinding] = useState<LiveFinding | null>(null);
  const checks = useJobs().filter(({ type }) => type === "check");
  const job = checks.find(isOpenJob) ?? checks[0] ?? null;
  const isChecking = job !== null && isOpenJob(job);
  const stamp = `${state.revision} ${state.settings} ${isChecking ? "checking" : (job?.id ?? "")}`;
  const { answer: summary, retry } = useCall("live.summary", {}, stamp);
  const check = async (scope: Scope) => {
    setError(null);
    try {
      await call("live.check", { scope });
      watchJobs();
    } catch (e) {
      setError(wordsOf(e));
    }
  };
  const { lastRun } = state;
  return (
    <div className="desk [--columns:320px_minmax(0,1fr)]">
      <BarSlot>
        {isChecking ? (
          <button type="button" className={MAIN_ACTION} onClick={() => stopJob(job.id)}>
            Stop the check
          </button>
        ) : (
          <button type="button" className={MAIN_ACTION} onClick={() => void check({ sample: SAMPLE })}>
            Check {SAMPLE} pages
          </button>
        )}
      </BarSlot>
      <section aria-label="Live check" className="desk-first min-h-0 overflow-auto border-r border-hair px-4 pb-4 pt-3">
        <h1 className="text-[18px] font-bold">Live pages</h1>
        <p className="mt-1 text-soft">
          Pages are fetched as visitors get them and compared with what is here: texts, redirects, indexing, canonicals.
        </p>
        <div className="mt-3 flex flex-wrap gap-2">
          {lastRun && lastRun.applied > 0 && (
            <button
              type="button"
              className={PLAIN_ACTION}
              disabled={isChecking}
              onClick={() => void check({ run: lastRun.id })}
            >
              Check run {lastRun.id}
            </button>
          )}
          <button
            type="button"
            className={PLAIN_ACTION}
            disabled={isChecking}
            onClick={() => void check({ all: true })}
          >
            Check all pages
          </button>
        </div>
        {job && <CheckState job={job} />}
        {error && (
          <p role="alert" className="mt-2 break-words text-magenta">
            {error}
          </p>
        )}
        {summary && summary.pages > 0 && (
          <>
            <p className="mt-3 border-t border-hair pt-3">
              {counted(summary.pages, "page", "pages")} checked{summary.lastAt && `, the last ${when(summary.lastAt)}`}
            </p>
            {summary.findings.length === 0 ? (
              <p className="mt-2 font-semibold">All of them are as meant.</p>
            ) : (
              <ul className="mt-2" aria-label="Findings">
                {[{ finding: null, words: "All that were checked", count: summary.pages }, ...summary.findings].map(
                  (own) => (
                    <li key={own.finding ?? "all"}>
                      <button
                        type="button"
                        aria-pressed={finding === own.finding}
                        onClick={() => setFinding(own.finding)}
                        className={`flex w-full justify-between gap-3 px-2 py-1 text-left ${finding === own.finding ? "bg-sheet font-semibold" : ""}`}
                      >
                        <span>{own.words}</span>
                        <span>{count(own.count)}</span>
                      </button>
                    </li>
                  ),
                )}
              </ul>
            )}
            {summary.findings.length > 0 && (
              <p className="mt-2">
                <Link href="/pages?mark=found-live" className="underline underline-offset-4">
                  Open these in Pages
                </Link>
              </p>
            )}
          </>
        )}
      </section>
      <section aria-label="Checked pages" className="min-h-0 min-w-0 overflow-auto bg-sheet px-6 py-4">
        {summary && summary.theme.length > 0 && <ThemeNotes theme={summary.theme} onTaken={retry} />}
        {summary && summary.pages === 0 ? (
          <p className="max-w-xl text-soft">
            Nothing was checked yet. A check of {SAMPLE} pages, spread over the site, tells what the theme does to all
            of them; after a run, check the pages that it changed.{" "}
            {!state.connection && (
              <>
                Pages are fetched from the site’s address in <Link href="/settings">Settings</Link>.
              </>
            )}
          </p>
        ) : (
          <LivePages key={finding} finding={finding} stamp={stamp} />
        )}
      </section>
    </div>
  );
}

function CheckState({ job }: { job: ReturnType<typeof useJobs>[number] }) {
  const result = job.result as CheckProgress | null;
  if (job.state === "failed")
    return (
      <p role="alert" className="mt-2 break-words text-magenta">
        {job.message}
      </p>
    );
  return (
    <div className="mt-2">
      {isOpenJob(job) && (
        <progress
          value={job.done}
          max={Math.max(1, job.total ?? 1)}
          aria-label="Progress of the check"
          className="block h-1.5 w-full"
        />
      )}
      <p role="status" className="text-[12.5px] text-soft">
        {isOpenJob(job) ? "Checking: " : job.state === "stopped" ? "Stopped: " : "Done: "}
        {count(result?.done ?? job.done)} of {counted(result?.total ?? job.total ?? 0, "page", "pages")}, something
        found on {count(result?.found ?? 0)}
      </p>
    </div>
  );
}
