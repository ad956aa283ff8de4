import { Refusal } from "../../core/refusal";
import { type ImportFigures, readImport } from "../../store/imports";
import { type Db } from "../../store/open";
import { type OpenedSite } from "../workspace/opened-site";

/** @throws {Refusal} where there is none with the number. */
export function existingImport(db: Db, id: number): ImportFigures {
  const found = readImport(db, id);
  if (!found) throw new Refusal("not-found", `No file was brought in with the number ${id}`);
  return found;
}

/** Begins to take back what bringing a file in did. @throws {Refusal} where nothing is left of it to take back. */
export function startImportBack(site: OpenedSite, id: number, begunBy: string): number {
  const found = existingImport(site.db, id);
  if (found.status === "running") throw new Refusal("invalid", `${found.file} is coming in yet; stop that first`);
  if (found.open === 0)
    throw new Refusal(
      "invalid",
      found.takenBackAt === null
        ? `What bringing in ${found.file} did to each page is not kept any more, or it changed nothing`
        : `${found.file} was taken back already`,
    );
  const label = `Taking back ${found.file}`;
  return site.jobs.add({ type: "import-back", label, params: { id }, total: found.open, begunBy }).id;
}
