"use client";
import type { StoredJob } from "../../store/jobs";
import { ago, when } from "../shell/format";
import Link from "../shell/link";
import { useCall } from "../shell/queries";
import { SIDEWAYS } from "../shell/sideways";
import { backJobOf, ImportActions, importFigures, importState } from "./import-actions";
import { RunProgressLine } from "./run-actions";

/** Every file that was brought in: when, what came of its rows; each can be looked at and taken back. */
export function Imports({ jobs, stamp }: { jobs: readonly StoredJob[]; stamp: string }) {
  const { answer: files, retry: load } = useCall("exchange.imports", {}, stamp);
  if (!files || files.length === 0) return null;
  return (
    <section aria-label="Imported files" className="mt-8">
      <h2 className="text-[16px] font-bold">Imports</h2>
      <div className={`mt-2 ${SIDEWAYS}`}>
        <table className="w-full border-collapse bg-sheet">
          <thead>
            <tr className="border-b border-key text-left">
              {["File", "When", "Rows", "State", ""].map((heading, i) => (
                <th key={i} scope="col" className="px-3 py-2 font-semibold">
                  {heading || <span className="sr-only">Actions</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {files.map((file) => {
              const job = backJobOf(jobs, file.id);
              return (
                <tr key={file.id} className="border-b border-hair align-top hover:bg-raised">
                  <td className="px-3 py-2.5">
                    <Link
                      href={`/runs/in/${file.id}`}
                      className="font-bold underline decoration-hair underline-offset-4 hover:decoration-key"
                    >
                      {file.file}
                    </Link>
                  </td>
                  <td className="px-3 py-2.5">
                    {when(file.startedAt)} <span className="block text-[12px] text-soft">{ago(file.startedAt)}</span>
                  </td>
                  <td className="px-3 py-2.5">{importFigures(file)}</td>
                  <td className="px-3 py-2.5">
                    {job ? <RunProgressLine done={job.done} total={job.total ?? 0} /> : importState(file)}
                  </td>
                  <td className="px-3 py-2">
                    <ImportActions file={file} job={job} onDone={load} />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
