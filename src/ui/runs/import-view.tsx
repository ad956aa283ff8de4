"use client";
import { useCallback, useEffect, useState } from "react";
import type { ImportChangeState, StoredImportChange } from "../../store/import-changes";
import { call, wordsOf } from "../shell/api";
import { PLAIN_ACTION } from "../shell/actions";
import { counted, when } from "../shell/format";
import { useJobs } from "../shell/jobs";
import Link, { FileLink } from "../shell/link";
import { useCall } from "../shell/queries";
import { backJobOf, ImportActions, importFigures, importState } from "./import-actions";
import { RunProgressLine } from "./run-actions";

const WHAT: Record<StoredImportChange["what"], string> = {
  added: "added",
  returned: "restored",
  updated: "changed",
  gone: "gone: not in the file",
};
const STATE: Record<ImportChangeState, string> = {
  in: "",
  back: "undone",
  kept: "only partly undone: changed again since",
};
const NAMES: Readonly<Record<string, string>> = {
  key: "id",
  path: "address",
  category_path: "category.path",
  meta_keywords: "meta keywords",
};

/** One file that was brought in: what came of it, what it did to each page, and the way back. */
export function ImportView({ id }: { id: number }) {
  const jobs = useJobs();
  const job = backJobOf(jobs, id);
  const stamp = jobs.map((own) => `${own.id} ${own.state}`).join();
  const { answer: file, error, retry } = useCall("exchange.import", { id }, stamp);
  const { changes, isWhole, more, failure } = useChanges(id, stamp);
  if (error)
    return (
      <p role="alert" className="p-8 text-magenta">
        {error}.{" "}
        <Link href="/runs" className="underline">
          All runs
        </Link>
      </p>
    );
  return (
    <div className="desk [--columns:272px_minmax(0,1fr)]">
      <aside
        aria-label="The file"
        className="desk-first desk-steady min-h-0 space-y-3 overflow-auto border-r border-hair px-4 py-4"
      >
        <p>
          <Link href="/runs" className="text-soft underline underline-offset-4">
            All runs
          </Link>
        </p>
        <h1 className="break-words text-[20px] font-bold">{file?.file ?? "…"}</h1>
        {file && (
          <>
            <p className="text-soft">{when(file.startedAt)}</p>
            <p>{importFigures(file)}</p>
            {job ? (
              <RunProgressLine done={job.done} total={job.total ?? 0} />
            ) : (
              <p role="status" className="font-semibold">
                {importState(file)}
              </p>
            )}
            {file.message && <p className="text-magenta">{file.message}</p>}
            <ImportActions file={file} job={job} onDone={retry} />
            {file.open > 0 && !job && (
              <p className="text-[12.5px] text-soft">
                Undoing it puts {counted(file.open, "page", "pages")} back as before: pages it added are kept under
                Gone, and anything changed since stays.
              </p>
            )}
            {file.refused > 0 && (
              <FileLink className={`${PLAIN_ACTION} inline-block`} href={`/api/imports/${id}/refused`}>
                {counted(file.refused, "rejected row", "rejected rows")} with reasons
              </FileLink>
            )}
          </>
        )}
      </aside>
      <section aria-label="What changed" className="min-h-0 min-w-0 overflow-auto bg-sheet px-6 py-4">
        {failure && (
          <p role="alert" className="text-magenta">
            {failure}
          </p>
        )}
        {changes.map((change) => (
          <Change key={change.item} change={change} />
        ))}
        {isWhole && changes.length === 0 && (
          <p className="text-soft">It changed no page, or its page-by-page record has expired.</p>
        )}
        {!isWhole && (
          <button type="button" className={`${PLAIN_ACTION} mt-3`} onClick={more}>
            Show more
          </button>
        )}
      </section>
    </div>
  );
}

/** What a bringing in did, a page of it at a time; anew with another stamp. */
function useChanges(id: number, stamp: string) {
  const [changes, setChanges] = useState<readonly StoredImportChange[]>([]);
  const [isWhole, setWhole] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const fetchAfter = useCallback(
    async (after: number, signal?: AbortSignal) => {
      try {
        const page = await call("exchange.importChanges", { id, after });
        if (signal?.aborted) return;
        const isNext = (old: readonly StoredImportChange[]) => (old.at(-1)?.item ?? 0) === after;
        setChanges((old) => (after === 0 ? page.changes : isNext(old) ? [...old, ...page.changes] : old));
        setWhole(page.isWhole);
        setFailure(null);
      } catch (error) {
        if (!signal?.aborted) setFailure(wordsOf(error));
      }
    },
    [id],
  );
  useEffect(() => {
    const gone = new AbortController();
    void fetchAfter(0, gone.signal);
    return () => gone.abort();
  }, [fetchAfter, stamp]);
  return { changes, isWhole, failure, more: () => void fetchAfter(changes.at(-1)?.item ?? 0) };
}

function Change({ change }: { change: StoredImportChange }) {
  const columns = Object.entries(change.change?.columns ?? {});
  return (
    <div className="grid grid-cols-[minmax(0,260px)_minmax(0,1fr)] gap-4 border-b border-hair py-2 small:grid-cols-1">
      <div className="min-w-0">
        <p className="truncate font-semibold" title={change.name}>
          {change.name || "A page without a name"}
        </p>
        <p className="narrow text-[12.5px] text-soft">
          {WHAT[change.what]}
          {change.state !== "in" && (
            <span className={change.state === "kept" ? "text-magenta" : ""}> · {STATE[change.state]}</span>
          )}
        </p>
      </div>
      <dl className="min-w-0 text-[13px]">
        {columns.flatMap(([column, [before, after]]) =>
          column === "attributes"
            ? attributeChanges(before, after).map((own) => <Field key={own.name} {...own} />)
            : [<Field key={column} name={NAMES[column] ?? column} before={before} after={after} />],
        )}
        {change.change?.body && <Field name="body" before="previous value" after="new value" />}
        {change.hands.map((hand) => (
          <Field
            key={`${hand.text} ${hand.image}`}
            {...hand}
            name={`${hand.text} by hand${hand.image && ` (${hand.image})`}`}
          />
        ))}
      </dl>
    </div>
  );
}

/** The attributes that changed, each by its name. */
function attributeChanges(before: string | null, after: string | null) {
  const [old, now] = [before, after].map((json) => JSON.parse(json || "{}") as Record<string, string>);
  return [...new Set([...Object.keys(old!), ...Object.keys(now!)])]
    .filter((name) => old![name] !== now![name])
    .map((name) => ({ name, before: old![name] ?? null, after: now![name] ?? null }));
}

function Field({ name, before, after }: { name: string; before: string | null; after: string | null }) {
  return (
    <div className="grid grid-cols-[130px_minmax(0,1fr)] gap-3">
      <dt className="truncate font-mono text-[12px] text-soft" title={name}>
        {name}
      </dt>
      <dd className="min-w-0 truncate">
        <del className="text-faint">{before || "nothing"}</del> <span>{after || "nothing"}</span>
      </dd>
    </div>
  );
}
