"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useKeptScroll } from "../shell/kept-scroll";
import Link from "../shell/link";
import { FileLinks } from "./file-links";
import { useCallback, useEffect, useRef, useState } from "react";
import type { DrawnRunChange } from "../../server/runs/drawn-changes";
import { ChangePage, pageAddress } from "../proof/change-page";
import { ROW_AT, useRowKeys } from "../shell/row-keys";
import { useRouter } from "../shell/site-path";
import { ChangePair } from "../proof/change-pair";
import { counted, when } from "../shell/format";
import { runOfJob, isOpenJob, useJobs } from "../shell/jobs";
import { drawnRows, PrintedRest, usePrinting, WINDOWED_ROW } from "../shell/printing";
import { useSite } from "../shell/site-context";
import { WhereItGoes } from "./where-it-goes";
import { RunActions, RunProgressLine, runState } from "./run-actions";
import { call, wordsOf } from "../shell/api";
import { useCall } from "../shell/queries";

const HEIGHT = 92;
const rowId = (row: number) => `change-${row}`;

/** One run: how far it is, what it changed, and the way back. */
export function RunView({ id }: { id: number }) {
  const { state } = useSite();
  const site = state.site!;
  const [changes, setChanges] = useState<readonly DrawnRunChange[]>([]);
  const [ended, setEnded] = useState(false);
  const [listError, setListError] = useState<string | null>(null);
  const jobs = useJobs();
  const job = jobs.find((j) => runOfJob(j) === id && isOpenJob(j)) ?? null;
  const failed = jobs.find((j) => runOfJob(j) === id && j.state === "failed");
  const finished = job === null;
  const asked = useCall("runs.read", { id }, `${state.revision} ${finished}`);
  const { answer: run, retry: load } = asked;
  const error = asked.error ?? listError;
  useEffect(() => {
    setChanges([]);
    setEnded(false);
    // The widths are told by the settings.
  }, [id, finished, state.settings]);

  const fetching = useRef(false);
  const more = useCallback(() => {
    if (fetching.current || ended) return;
    fetching.current = true;
    const after = changes.at(-1)?.id ?? 0;
    call("runs.changes", { id, after })
      .then((page) => {
        setChanges((old) => ((old.at(-1)?.id ?? 0) === after ? [...old, ...page] : old));
        if (page.length === 0) setEnded(true);
      })
      .catch((e: unknown) => setListError(wordsOf(e)))
      .finally(() => (fetching.current = false));
  }, [changes, ended, id]);

  const router = useRouter();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: changes.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => HEIGHT,
    overscan: 6,
  });
  const shown = virtual.getVirtualItems();
  useKeptScroll("changes", scroller, changes.length);
  const drawn = drawnRows(shown, changes.length, { printing: usePrinting(), isThere: (row) => row < changes.length });
  const keys = useRowKeys(
    { count: changes.length, height: HEIGHT, scroller, show: (row) => virtual.scrollToIndex(row) },
    (key, row) => {
      const change = changes[row];
      if (key !== "Enter" || !change || change.isGone) return false;
      router.push(pageAddress({ kind: change.kind, id: change.item_id }));
      return true;
    },
  );
  const last = shown.at(-1)?.index ?? -1;
  useEffect(() => {
    if (last >= changes.length - 30) more();
  }, [last, changes.length, more]);

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
        {run && (
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
            {failed && (
              <p role="alert" className="text-magenta">
                {failed.message}
              </p>
            )}
            <RunActions run={run} job={job} onDone={load} />
            <WhereItGoes run={run} job={job} />
            <dl className="border-t border-hair pt-2">
              {(
                [
                  ["Pages", run.items],
                  ["Titles", run.titles],
                  ["Descriptions", run.descriptions],
                  ["Slugs", run.slugs],
                  ["Robots settings", run.robots],
                  ["Image descriptions", run.alts],
                  ["Meta keywords", run.keywords],
                  ["Links in bodies", run.bodies],
                  ["Redirects", run.redirects],
                  ["Skipped", run.skipped - (run.wire ? run.wire.refused + run.wire.changed : 0)],
                ] as const
              ).map(([label, value]) => (
                <div key={label} className="flex justify-between py-0.5">
                  <dt className="text-soft">{label}</dt>
                  <dd className={label === "Skipped" && value > 0 ? "font-bold text-magenta" : ""}>
                    {value.toLocaleString("en")}
                  </dd>
                </div>
              ))}
            </dl>
            <div className="flex flex-wrap gap-2 border-t border-hair pt-3">
              <FileLinks what="Changes" href={`/api/out/changes?run=${id}`} />
              {run.alts + run.bodies > 0 && <FileLinks what="Changed bodies" href={`/api/out/bodies?run=${id}`} />}
              {run.redirects > 0 && <FileLinks what="Redirects" href={`/api/out/redirects?run=${id}`} />}
            </div>
            <p className="text-[12px] text-soft">
              In CSV, a text that a spreadsheet would run as a formula gets an apostrophe in front; the last column
              names the cells.
            </p>
          </>
        )}
      </aside>
      <section aria-label="Changes" className="desk-list flex min-h-0 min-w-0 flex-col bg-sheet">
        <div className="flex items-baseline gap-3 border-b border-key bg-raised px-5 py-2.5">
          <h2 className="font-bold">What it changed</h2>
          {run && (
            <span className="text-soft">{counted(run.waiting + run.applied + run.skipped, "change", "changes")}</span>
          )}
        </div>
        <div
          ref={scroller}
          className="group/rows min-h-0 flex-1 overflow-auto"
          tabIndex={0}
          role="grid"
          aria-rowcount={run ? run.waiting + run.applied + run.skipped : -1}
          aria-label="Changes of the run"
          aria-activedescendant={changes.length > 0 ? rowId(keys.at) : undefined}
          onKeyDown={keys.onKeyDown}
        >
          <div className="relative print:!h-auto" style={{ height: virtual.getTotalSize() }} role="presentation">
            {drawn.map((item) => {
              const change = changes[item.index]!;
              return (
                <div
                  key={change.id}
                  role="row"
                  id={rowId(item.index)}
                  aria-rowindex={item.index + 1}
                  onClick={() => keys.put(item.index)}
                  className={`${WINDOWED_ROW} ${item.index === keys.at ? ROW_AT : ""}`}
                  style={{ height: HEIGHT, transform: `translateY(${item.start}px)` }}
                >
                  <div role="gridcell" className="absolute inset-0 print:static">
                    <span className="narrow absolute left-3 top-2 w-12 text-[11px] text-faint print:static print:float-left">
                      {change.status === "skipped" ? (
                        <b className="text-magenta">{change.trouble ?? "skip"}</b>
                      ) : change.status === "waiting" ? (
                        "waits"
                      ) : (
                        ""
                      )}
                    </span>
                    <ChangePage page={{ ...change, id: change.item_id }} isGone={change.isGone}>
                      {change.reason && <span className="mx-1 font-semibold text-magenta">{change.reason}</span>}
                      <span className="mx-1">{change.path || "no address"}</span>
                    </ChangePage>
                    <div className="absolute inset-x-0 bottom-0 top-[22px] print:static">
                      <ChangePair
                        change={{ ...change, path: change.text === "address" ? "" : (change.path_before ?? "") }}
                        site={site}
                      />
                    </div>
                  </div>
                </div>
              );
            })}
          </div>
        </div>
        {run && <PrintedRest printed={drawn.length} total={run.waiting + run.applied + run.skipped} what="changes" />}
      </section>
    </div>
  );
}
