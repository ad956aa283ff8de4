"use client";
import { useEffect, useRef } from "react";
import { create } from "./store";
import type { Job } from "../../server/backend";
import { ask } from "./api";
import { useSite } from "./site-context";

const jobsStore = create<readonly Job[]>([]);
let poll: (() => void) | null = null;

/** Long work under way or just ended; every screen may show it. */
export function useJobs(): readonly Job[] {
  return jobsStore.use();
}

/** Looks at the jobs now, and again as long as one runs. */
export function watchJobs(): void {
  poll?.();
}

/** Stops a job; what it has done stays done. */
export function stopJob(id: string): Promise<unknown> {
  return ask("/api/jobs", { method: "DELETE", body: { id } });
}

/** Follows the server's jobs while any runs, and refreshes the site's state when one ends. */
export function Jobs() {
  const { state, refresh } = useSite();
  const running = useRef(state.jobs.some((job) => job.status === "running"));
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let ended = false;
    const look = async () => {
      clearTimeout(timer);
      try {
        const jobs = await ask<Job[]>("/api/jobs");
        if (ended) return;
        const now = jobs.some((job) => job.status === "running");
        if (running.current && !now) await refresh();
        running.current = now;
        jobsStore.set(jobs);
        if (now) timer = setTimeout(() => void look(), 250);
      } catch {
        if (!ended && running.current) timer = setTimeout(() => void look(), 2000);
      }
    };
    poll = () => {
      running.current = true;
      void look();
    };
    void look();
    return () => {
      ended = true;
      clearTimeout(timer);
      poll = null;
    };
  }, [refresh]);
  return null;
}
