import { type ByHandChoice } from "../../core/infer/by-hand";
import { Refusal } from "../../core/refusal";
import { type Mapping } from "../../formats/mapping";
import { type JobWorker } from "../jobs/job-queue";
import { type OpenedSite } from "../workspace/opened-site";
import { type ImportProgress } from "./bring-in";
import { type TakenBack } from "./take-import-back";
import { existingImport } from "./imports";
import { forgetFile } from "./uploads";

export interface ImportParams {
  readonly token: string;
  readonly name: string;
  readonly mapping: Mapping;
  readonly byHand: ByHandChoice;
  readonly areAll: boolean;
}

export interface ImportBackParams {
  readonly id: number;
}

/** Takes back what bringing a file in did. */
export const importBackWorker =
  (site: OpenedSite): JobWorker<ImportBackParams> =>
  async (params, { signal, tell }) => {
    const progress = (value: unknown) => tell({ done: (value as TakenBack).pages, result: value });
    const { status, ...result } = await site.writer.call("takeImportBack", params, { signal, progress });
    tell({ done: result.pages, result });
    return { state: status, result };
  };

export const importWorker =
  (site: OpenedSite): JobWorker<ImportParams> =>
  async (params, { signal, tell }) => {
    const progress = (value: unknown) => tell({ done: (value as ImportProgress).rows, result: value });
    try {
      const { status, ...result } = await site.writer.call("bringIn", params, { signal, progress });
      tell({ done: result.rows, total: result.rows });
      return { state: status, result };
    } finally {
      forgetFile(params.token);
    }
  };

/** Begins to take back what bringing a file in did. @throws {Refusal} where nothing is left of it to take back. */
export function startImportBack(site: OpenedSite, id: number, begunBy: string): number {
  const found = existingImport(site.db, id);
  if (found.status === "running")
    throw new Refusal("invalid", `${found.file} is still being imported; stop that first`);
  if (found.open === 0)
    throw new Refusal(
      "invalid",
      found.takenBackAt === null
        ? `What the import of ${found.file} changed is no longer recorded, or it changed nothing`
        : `${found.file} was already undone`,
    );
  const label = `Undoing the import of ${found.file}`;
  return site.jobs.add({ type: "import-back", label, params: { id }, total: found.open, begunBy }).id;
}
