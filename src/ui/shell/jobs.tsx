"use client";
import { useCallback, useEffect, useRef } from "react";
import { create } from "./store";
import type { StoredJob } from "../../store/jobs";
import { call } from "./api";
import { sayFailure } from "./say-failure";
import { useSite } from "./site-context";
import { useReturning } from "./use-returning";

const jobsStore = create<readonly StoredJob[]>([]);
let poll: (() => void) | null = null;

/** Long work under way or just ended; every screen may show it. */
export function useJobs(): readonly StoredJob[] {
  return jobsStore.use();
}

/** Looks at the jobs now, and again as long as one runs. */
export function watchJobs(): void {
  poll?.();
}

/** Whether a job is still to be done, or being done. */
export function isOpenJob({ state }: StoredJob): boolean {
  return state === "waiting" || state === "running";
}

/** The run that a job is of, as far as that is known. */
export function runOfJob({ type, result, params }: StoredJob): number | null {
  if (type !== "run") return null;
  return (result as { run?: number } | null)?.run ?? (params as { run?: number }).run ?? null;
}

/** Stops a job; what it has done stays done. */
export function stopJob(id: number): void {
  call("jobs.stop", { id }).catch(sayFailure);
}

/**
 * Follows the server's jobs while any runs, and refreshes the site's state when they have ended. Looks at both whenever one comes back to
 * this window: what another one began is followed from then on.
 */
export function Jobs() {
  const { state, refresh } = useSite();
  const running = useRef(state.jobs.some(isOpenJob));
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let turn = 0;
    const look = async () => {
      const own = ++turn;
      clearTimeout(timer);
      try {
        const jobs = await call("jobs.list", {});
        // Another look was begun meanwhile: it goes on from here.
        if (own !== turn) return;
        const now = jobs.some(isOpenJob);
        if (running.current && !now) await refresh();
        if (own !== turn) return;
        running.current = now;
        jobsStore.set(jobs);
        if (now) timer = setTimeout(() => void look(), 250);
      } catch {
        if (own === turn && running.current) timer = setTimeout(() => void look(), 2000);
      }
    };
    poll = () => {
      running.current = true;
      void look();
    };
    void look();
    return () => {
      turn++;
      clearTimeout(timer);
      poll = null;
    };
  }, [refresh]);
  const lookAnew = useCallback(() => {
    watchJobs();
    // While jobs run that is not done by them.
    refresh().catch(() => {});
  }, [refresh]);
  useReturning(lookAnew);
  return null;
}
