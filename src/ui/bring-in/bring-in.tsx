"use client";
import { type DragEvent, useState } from "react";
import { type Kind } from "../../core/design/kinds";
import { isOpenJob, useJobs, watchJobs } from "../shell/jobs";
import Link from "../shell/link";
import { useSite } from "../shell/site-context";
import { ChooseFile, ChooseSheet } from "./choose-file";
import { FileChoices } from "./file-choices";
import { ImportError } from "./import-error";
import { ImportProgress } from "./import-progress";
import { usePastedTable } from "./pasted-table";
import { useFirstLook } from "./use-first-look";

/** Brings a site's pages in: a file, a first look, what each column is, then all of it with progress. */
export function BringIn() {
  const [kind, setKind] = useState<Kind>("product");
  const [jobId, setJobId] = useState<number | null>(null);
  const [isOver, setOver] = useState(false);
  const { look, isReading, error, take, chooseSheet, clear } = useFirstLook((shown) => {
    if (shown.kind) setKind(shown.kind);
  });
  const { state } = useSite();
  const jobs = useJobs();
  // After a reload the view finds an import that is still under way.
  const job = jobs.find((j) => j.id === jobId) ?? jobs.find((j) => j.type === "import" && isOpenJob(j)) ?? null;

  const onFile = (file: File) => {
    setJobId(null);
    void take(file);
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file) onFile(file);
  };
  usePastedTable(onFile);

  const source = jobId === null ? look?.source : null;
  return (
    <div
      className="flex h-full flex-col overflow-auto px-6 py-4"
      onDragOver={(event) => (event.preventDefault(), setOver(true))}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      <div className="flex items-baseline gap-5 small:block">
        <h1 className="whitespace-nowrap text-[22px] font-bold">Import pages</h1>
        <p className="text-soft">
          A CSV or spreadsheet (XLSX, ODS) with a header row, or JSON Lines. Importing the same file again updates its
          pages by id or address; pages that are not in it stay.
        </p>
      </div>
      <ChooseFile look={look} isReading={isReading} isOver={isOver} onFile={onFile}>
        {look && source && source.sheets.length > 1 && (
          <ChooseSheet
            sheets={source.sheets}
            sheet={source.sheet}
            isReading={isReading}
            onSheet={(sheet) => void chooseSheet(look, sheet)}
          />
        )}
      </ChooseFile>
      {!look && (
        <p className="mt-3">
          <Link href="/connection" className="underline underline-offset-4">
            {state.connection ? "Import from the live site" : "Connect the site’s interface"}
          </Link>
        </p>
      )}
      {error && <ImportError message={error} />}
      {job && <ImportProgress job={job} onAgain={() => (clear(), setJobId(null))} />}
      {look && jobId === null && (
        <FileChoices
          key={`${look.token} ${look.source?.sheet ?? ""}`}
          look={look}
          kind={kind}
          onKind={setKind}
          onBegun={(begun) => {
            setJobId(begun);
            watchJobs();
          }}
        />
      )}
    </div>
  );
}
