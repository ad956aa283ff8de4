"use client";
import type { ImportProgress as Counts } from "../../server/exchange/bring-in";
import type { StoredJob } from "../../store/jobs";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { isOpenJob, stopJob } from "../shell/jobs";
import { FileLink } from "../shell/link";
import { useRouter } from "../shell/site-path";
import { useTimeLeft } from "./time-left";

/** How far a file is that comes in, what became of its rows, and where to go from there. */
export function ImportProgress({ job, onAgain }: { job: StoredJob; onAgain: () => void }) {
  const router = useRouter();
  const r = job.result as Counts | null;
  const running = isOpenJob(job);
  const left = useTimeLeft(job.done, job.total);
  const file = (job.params as { name: string }).name;
  return (
    <section aria-label="Progress" className="mt-5 max-w-2xl border border-hair bg-sheet p-5">
      <h2 className="text-[16px] font-bold">
        {running
          ? `Importing ${file} …`
          : job.state === "done"
            ? `${file} is imported`
            : job.state === "stopped"
              ? "Stopped: the rows imported so far stay"
              : "The file could not be imported"}
      </h2>
      <p role="status" className="mt-2 text-[15px]">
        {running && job.total !== null
          ? `${count(r?.rows ?? job.done)} of ${counted(job.total, "row", "rows")}`
          : counted(r?.rows ?? job.done, "row", "rows")}{" "}
        read
        {r && (
          <>
            {" = "}
            <b>{count(r.added)}</b> added +{" "}
            {r.returned > 0 && (
              <>
                <b>{count(r.returned)}</b> restored +{" "}
              </>
            )}
            <b>{count(r.updated)}</b> changed + <b>{count(r.unchanged)}</b> the same +{" "}
            <b className={r.refused > 0 ? "text-magenta" : ""}>{count(r.refused)}</b> rejected
            {r.byHand > 0 && (
              <>
                ; <b>{count(r.byHand)}</b> texts marked as written by hand
              </>
            )}
            {r.gone > 0 && (
              <>
                ; <b>{count(r.gone)}</b> {r.gone === 1 ? "page" : "pages"} not in the file, marked as gone
              </>
            )}
            {r.stayed > 0 && (
              <span className="text-magenta">
                ; {counted(r.stayed, "page is", "pages are")} not in it, and {r.stayed === 1 ? "stays" : "stay"}: the
                rejected rows may be theirs
              </span>
            )}
          </>
        )}
      </p>
      {running && (
        <>
          <progress
            aria-label="Rows are being read"
            className="mt-3 block h-1.5 w-full"
            {...(job.total === null ? {} : { max: Math.max(1, job.total), value: job.done })}
          />
          <p className="mt-1 h-5 text-soft">{left}</p>
        </>
      )}
      {job.message && (
        <p role="alert" className="mt-2 text-magenta">
          {job.message}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        {running ? (
          <button type="button" className={PLAIN_ACTION} onClick={() => stopJob(job.id)}>
            Stop
          </button>
        ) : (
          <>
            <button type="button" className={PLAIN_ACTION} onClick={() => router.push("/pages")}>
              View the pages
            </button>
            <button type="button" className={PLAIN_ACTION} onClick={() => router.push("/")}>
              Go to the Board
            </button>
            {r && (
              <button type="button" className={PLAIN_ACTION} onClick={() => router.push(`/runs/in/${r.import}`)}>
                What changed
              </button>
            )}
            <button type="button" className={PLAIN_ACTION} onClick={onAgain}>
              Import another file
            </button>
          </>
        )}
        {r && r.refused > 0 && (
          <FileLink className={PLAIN_ACTION} href={`/api/imports/${r.import}/refused`}>
            {counted(r.refused, "rejected row", "rejected rows")} with reasons
          </FileLink>
        )}
      </div>
    </section>
  );
}
