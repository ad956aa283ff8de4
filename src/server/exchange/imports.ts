import { Refusal } from "../../core/refusal";
import { type ImportFigures, readImport } from "../../store/imports";
import { type Db } from "../../store/open";

/** @throws {Refusal} where there is none with the number. */
export function existingImport(db: Db, id: number): ImportFigures {
  const found = readImport(db, id);
  if (!found) throw new Refusal("not-found", `There is no import with the number ${id}`);
  return found;
}
