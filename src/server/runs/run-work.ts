import { Refusal } from "../../core/refusal";
import { isOpen, type JobType, type StoredJob } from "../../store/jobs";
import { readRun, type RunFigures, runOfClick, setDue } from "../../store/runs";
import { type JobWorker } from "../jobs/job-queue";
import { connectionFigures } from "../../store/wire";
import { type OpenedSite } from "../workspace/opened-site";
import { type RunProgress } from "./apply-run";
import { type RunParams, type RunResult } from "./run-clicks";

/** Does what is to be done with a run; the run itself is walked by the thread that writes. */
export const runWorker =
  (site: OpenedSite): JobWorker<RunParams> =>
  async (params, { signal, tell }) => {
    const run = await runOf(site, params);
    const figures = readRun(site.db, run)!;
    const total = figures.waiting + figures.applied + figures.skipped;
    tell({ result: { run } satisfies RunResult, total, done: total - figures.waiting });
    site.clicks.known(params, run);
    if (params.do === "apply" && params.dueAt) {
      setDue(site.db, run, params.dueAt);
      return { state: "done", result: { run } satisfies RunResult };
    }
    const progress = (value: unknown) => tell({ done: (value as RunProgress).done });
    // Over the interface it is applied when the site has confirmed it.
    const state =
      figures.over_wire === 1
        ? await sendGivingWay(site, run, { signal, progress })
        : await site.writer.call("applyRun", { run }, { signal, progress });
    return { state, result: { run } satisfies RunResult };
  };

/** Work that a person waits for. */
const WAITED_FOR: ReadonlySet<JobType> = new Set(["edit", "keywords"]);
const LOOK_FOR_OTHERS_MS = 250;

/**
 * Sends a run to the site. That may take as long as the site wants: work that a person waits for goes first, and the run goes on
 * behind it, which it can at any moment.
 */
async function sendGivingWay(
  site: OpenedSite,
  run: number,
  { signal, progress }: { readonly signal: AbortSignal; readonly progress: (value: unknown) => void },
): Promise<"done" | "stopped"> {
  const stop = new AbortController();
  const end = () => stop.abort();
  signal.addEventListener("abort", end);
  const watch = setInterval(() => {
    if (site.jobs.open().some(({ state, type }) => state === "waiting" && WAITED_FOR.has(type))) end();
  }, LOOK_FOR_OTHERS_MS);
  try {
    const state = await site.writer.call("sendRun", { run }, { signal: stop.signal, progress });
    if (state === "stopped" && !signal.aborted) addGoOn(site, existing(site, run), "giving way");
    return state;
  } finally {
    clearInterval(watch);
    signal.removeEventListener("abort", end);
  }
}

/** The run's number; one that is not there yet is written down. */
async function runOf(site: OpenedSite, params: RunParams): Promise<number> {
  switch (params.do) {
    case "apply":
      return site.proof.call("freeze", {
        goingOut: params.goingOut,
        name: params.name,
        click: params.click,
        now: site.now(),
      });
    case "take-back":
      return site.writer.call("createTakeBack", { run: params.of });
    case "go-on":
      return params.run;
  }
}

interface StartAsked {
  readonly goingOut: string;
  readonly name: string;
  readonly click: string;
  /** Whether it was said that it goes out over the site’s interface. */
  readonly overWire?: boolean | undefined;
  /** When it is to go out by itself, ISO 8601; `null`: now. */
  readonly dueAt?: string | null;
}

/** Writes down what the review that was looked at takes in, and begins to apply it. A second click is the first one's run. */
export async function startRun(site: OpenedSite, { overWire, ...asked }: StartAsked, begunBy: string): Promise<number> {
  const made = runOfClick(site.db, asked.click);
  if (made !== null) return made;
  if (overWire !== undefined && overWire !== (connectionFigures(site.db)?.writes ?? false))
    throw new Refusal(
      "stale",
      "The site’s connection was changed since you opened this review. Nothing was applied; check it again.",
    );
  refusePast(site, asked.dueAt ?? null);
  const params = { do: "apply", ...asked } as const;
  const open = site.jobs.open();
  const same = open.find((job) => (job.params as Partial<typeof asked>).click === asked.click);
  if (same) return site.clicks.of(params, site.jobs.ended(same.id));
  const first = open[0];
  if (first)
    throw new Refusal(
      "busy",
      `${first.label} is running and may change what you reviewed. Wait until it is done, then check the review again.`,
    );
  return added(site, params, asked.name === "" ? "Applying the review" : asked.name, null, begunBy);
}

function refusePast(site: OpenedSite, dueAt: string | null): void {
  if (dueAt !== null && dueAt <= site.now())
    throw new Refusal("invalid", "That time has passed. Choose a later one, or apply now.");
}

/** Says when a run that was not begun goes out by itself; `null`: when somebody says so. */
export function scheduleRun(site: OpenedSite, id: number, dueAt: string | null): void {
  if (existing(site, id).status !== "ready") throw new Refusal("invalid", `Run ${id} was begun already`);
  refusePast(site, dueAt);
  setDue(site.db, id, dueAt);
}

/** Takes a run back; of several who ask at the same time one does. */
export function startTakeBack(site: OpenedSite, of: number, begunBy: string): Promise<number> {
  const run = existing(site, of);
  if (run.taken_back_by !== null)
    throw new Refusal("invalid", `Run ${of} was already undone by run ${run.taken_back_by}`);
  return added(site, { do: "take-back", of }, `Undoing run ${of}`, run.applied, begunBy);
}

/** Goes on with a run that is ready or was stopped. */
export function goOnWithRun(site: OpenedSite, id: number, begunBy: string): void {
  const run = existing(site, id);
  if (run.taken_back_by !== null) throw new Refusal("invalid", `Run ${id} was undone; it cannot continue`);
  if (run.status === "done") throw new Refusal("invalid", `Run ${id} is finished; there is nothing left to do`);
  if (jobOfRun(site, id)) return;
  setDue(site.db, id, null);
  addGoOn(site, run, begunBy);
}

function addGoOn(site: OpenedSite, run: RunFigures, begunBy: string): void {
  const label = run.type === "apply" ? `Run ${run.id}` : `Undoing run ${run.of_run}`;
  const params = { do: "go-on", run: run.id } satisfies RunParams;
  site.jobs.add({ type: "run", label, params, total: run.changes, begunBy });
}

/** Stops a run that is under way; what it has done stays done. */
export function stopRun(site: OpenedSite, id: number): void {
  const job = jobOfRun(site, id);
  if (job) site.jobs.stop(job.id);
}

/** A run's figures. @throws {Refusal} where there is none. */
export function existing(site: OpenedSite, id: number): RunFigures {
  const run = readRun(site.db, id);
  if (!run) throw new Refusal("not-found", `There is no run ${id}`);
  return run;
}

/** The open job of a run. */
function jobOfRun(site: OpenedSite, run: number): StoredJob | undefined {
  return site.jobs.open().find(({ type, state, params, result }) => {
    if (type !== "run" || !isOpen(state)) return false;
    return (result as Partial<RunResult> | null)?.run === run || (params as { run?: number }).run === run;
  });
}

function added(
  site: OpenedSite,
  params: RunParams,
  label: string,
  total: number | null,
  begunBy: string,
): Promise<number> {
  let start: (job: StoredJob) => void = () => {};
  const ended = new Promise<StoredJob>((resolve) => (start = resolve)).then((job) => site.jobs.ended(job.id));
  const run = site.clicks.of(params, ended);
  start(site.jobs.add({ type: "run", label, params, total, begunBy }));
  return run;
}
