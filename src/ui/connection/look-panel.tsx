"use client";
import { useState } from "react";
import type { CallResult } from "../../server/api/contract";
import type { ImportProgress } from "../../server/exchange/bring-in";
import type { Foreseen } from "../../server/exchange/foresee";
import { call, wordsOf } from "../shell/api";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted, when } from "../shell/format";
import { isOpenJob, stopJob, useJobs, watchJobs } from "../shell/jobs";
import Link from "../shell/link";

type Connected = NonNullable<CallResult<"wire.read">>;

/** Looks at the live site: what changed there, or everything; with what that would change said before. */
export function LookPanel({ connection }: { connection: Connected }) {
  const [foreseen, setForeseen] = useState<Foreseen | null>(null);
  const [rows, setRows] = useState<number | null>(null);
  const [error, setError] = useState<string | null>(null);
  const looks = useJobs().filter(({ type }) => type === "look");
  const job = looks.find(isOpenJob) ?? looks[0] ?? null;
  const isLooking = job !== null && isOpenJob(job);
  const isReady = connection.hasSecret || !connection.needsSecret;
  const look = async (isFull: boolean) => {
    setError(null);
    try {
      // What somebody works on here is shown before it is taken over, unless it stands there already.
      if (connection.lastLook && !foreseen && (await foresee())?.conflicts.count) return;
      setForeseen(null);
      await call("wire.look", { isFull });
      watchJobs();
    } catch (e) {
      setError(wordsOf(e));
    }
  };
  const foresee = async () => {
    setError(null);
    setForeseen(null);
    setRows(0);
    try {
      const found = await call("wire.foresee", {}, { onProgress: (read: never) => setRows(read) });
      setForeseen(found);
      return found;
    } catch (e) {
      setError(wordsOf(e));
      return null;
    } finally {
      setRows(null);
    }
  };
  return (
    <section aria-label="Live site" className="mt-4 border-t border-hair pt-3">
      <h2 className="font-bold">Live site</h2>
      <p className="mt-1 text-soft">
        {connection.lastLook
          ? `Last look ${when(connection.lastLook.endedAt)}; it has ${counted(connection.pages, "page", "pages")} over this connection.`
          : "Not looked at yet over this connection."}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {isLooking ? (
          <button type="button" className={PLAIN_ACTION} onClick={() => stopJob(job.id)}>
            Stop
          </button>
        ) : (
          <>
            <button type="button" className={PLAIN_ACTION} disabled={!isReady} onClick={() => void look(false)}>
              {!connection.lastLook
                ? "Import all pages"
                : foreseen?.conflicts.count
                  ? "Import it all the same"
                  : "Import what changed"}
            </button>
            {connection.lastLook && (
              <>
                <button
                  type="button"
                  className={PLAIN_ACTION}
                  disabled={!isReady || rows !== null}
                  onClick={() => void foresee()}
                >
                  Show what changed
                </button>
                <button type="button" className={PLAIN_ACTION} disabled={!isReady} onClick={() => void look(true)}>
                  Import everything again
                </button>
              </>
            )}
          </>
        )}
      </div>
      {connection.lastLook && (
        <p className="mt-2">
          <Link href="/live" className="underline underline-offset-4">
            Check what visitors get
          </Link>
        </p>
      )}
      {!isReady && <p className="mt-2 text-magenta">Type in the secret and save it first.</p>}
      {rows !== null && (
        <p role="status" className="mt-2 text-soft">
          Asking the site: {counted(rows, "record", "records")} so far …
        </p>
      )}
      {foreseen && <Changed foreseen={foreseen} />}
      {job && <LookState job={job} />}
      {error && (
        <p role="alert" className="mt-2 break-words text-magenta">
          {error}
        </p>
      )}
    </section>
  );
}

/** What the site has that differs from what is here. */
function Changed({ foreseen: { added, updated, unchanged, refused, fields, conflicts } }: { foreseen: Foreseen }) {
  return (
    <div className="mt-2">
      {conflicts.count > 0 && (
        <div role="alert" className="mb-2 border-l-4 border-magenta pl-3">
          <p className="font-semibold">
            {counted(conflicts.count, "text was", "texts were")} changed on the site that somebody works on here:
          </p>
          <ul className="mt-1 space-y-1 text-[12.5px]">
            {conflicts.first.map(({ name, text, comes, here, by }) => (
              <li key={`${name} ${text}`} className="break-words">
                <b>{name}</b>, {text}: the site has “{comes}”; {by === "hand" ? "by hand it is" : "a run makes it"} “
                {here}”
              </li>
            ))}
          </ul>
          <p className="mt-1 text-[12.5px] text-soft">
            Importing takes over what the site has; a text by hand stays, and replaces it when it is applied. A run
            leaves such a text alone.
          </p>
        </div>
      )}
      <p role="status">
        <b>{count(updated)}</b> changed, <b>{count(added)}</b> new, {count(unchanged)} the same
        {refused > 0 && `, ${count(refused)} rejected`}
      </p>
      <ul className="mt-1 space-y-1 text-[12.5px]">
        {fields.map(({ field, count: pages, examples }) => (
          <li key={field}>
            <b>{field}</b> on {counted(pages, "page", "pages")}
            {examples[0] && (
              <span className="block break-words text-soft">
                {examples[0].name}: “{examples[0].before}” becomes “{examples[0].after}”
              </span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

function LookState({ job }: { job: ReturnType<typeof useJobs>[number] }) {
  const result = job.result as ImportProgress | null;
  const isOpen = isOpenJob(job);
  return (
    <div className="mt-2">
      {job.state === "failed" ? (
        <p role="alert" className="break-words text-magenta">
          {job.message}
        </p>
      ) : (
        <p role="status">
          {isOpen ? "Looking at the live site: " : job.state === "stopped" ? "Stopped: " : "Done: "}
          {counted(result?.rows ?? job.done, "page", "pages")}
          {result &&
            `, ${count(result.added + result.returned)} new, ${count(result.updated)} changed, ${count(result.gone)} gone, ${count(result.refused)} rejected`}
        </p>
      )}
      {result && !isOpen && (
        <Link href={`/runs/in/${result.import}`} className="underline underline-offset-4">
          What it changed
        </Link>
      )}
    </div>
  );
}
