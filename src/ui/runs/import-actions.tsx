"use client";
import { useState } from "react";
import { toast } from "sonner";
import type { StoredJob } from "../../store/jobs";
import type { ImportFigures } from "../../store/imports";
import { call, wordsOf } from "../shell/api";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { isOpenJob, stopJob, watchJobs } from "../shell/jobs";

/** The job that takes a bringing in back, if one does. */
export function backJobOf(jobs: readonly StoredJob[], id: number): StoredJob | null {
  return (
    jobs.find((job) => job.type === "import-back" && isOpenJob(job) && (job.params as { id: number }).id === id) ?? null
  );
}

const STATES: Record<ImportFigures["status"], string> = {
  running: "Running",
  done: "Imported",
  stopped: "Stopped: the rows imported so far stay",
  failed: "Failed",
};

/** What state a bringing in is in, in words. */
export function importState({ status, takenBackAt, kept, open }: ImportFigures): string {
  const but = kept > 0 ? `, but for ${counted(kept, "page", "pages")} that changed again since` : "";
  if (takenBackAt !== null) return `Undone${but}`;
  // Some of it was taken back before that was stopped.
  return kept > 0 && open > 0 ? `Partly undone${but}` : STATES[status];
}

/** What came of a file's rows, the figures that are not nought. */
export function importFigures(file: ImportFigures): string {
  const parts: readonly [number, string][] = [
    [file.added, "added"],
    [file.returned, "restored"],
    [file.updated, "changed"],
    [file.unchanged, "the same"],
    [file.refused, "rejected"],
    [file.gone, "gone"],
  ];
  const told = parts.filter(([value]) => value > 0).map(([value, label]) => `${count(value)} ${label}`);
  return told.length === 0 ? "Nothing was imported" : told.join(", ");
}

/** Takes a bringing in back, or stops that. */
export function ImportActions({
  file,
  job,
  onDone,
}: {
  file: ImportFigures;
  job: StoredJob | null;
  onDone: () => void;
}) {
  const [busy, setBusy] = useState(false);
  if (job)
    return (
      <button type="button" className={PLAIN_ACTION} onClick={() => stopJob(job.id)}>
        Stop
      </button>
    );
  if (file.open === 0 || file.status === "running") return null;
  const takeBack = () => {
    setBusy(true);
    call("exchange.takeImportBack", { id: file.id })
      .then(() => {
        watchJobs();
        onDone();
      })
      .catch((error: unknown) => toast.error(wordsOf(error)))
      .finally(() => setBusy(false));
  };
  return (
    <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={takeBack}>
      Undo
    </button>
  );
}
