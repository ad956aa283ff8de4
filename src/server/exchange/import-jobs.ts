import { type ByHandChoice } from "../../core/infer/by-hand";
import { type Mapping } from "../../formats/mapping";
import { type Db } from "../../store/open";
import { type Call } from "../threads/call";
import { takeImportBack } from "./take-import-back";
import { bringIn } from "./bring-in";
import { uploadedFile } from "./uploads";

interface ImportAsked {
  readonly token: string;
  readonly name: string;
  readonly mapping: Mapping;
  readonly byHand: ByHandChoice;
  readonly areAll: boolean;
}

/** What the thread that writes does for files of pages. */
export const importJobs = (db: Db, now: () => string) => ({
  bringIn: ({ token, name, ...asked }: ImportAsked, call: Call) =>
    bringIn(db, uploadedFile(token), name, asked, { now, stopped: call.cancelled, progress: call.progress }),
  takeImportBack: ({ id }: { readonly id: number }, call: Call) =>
    takeImportBack(db, id, { now, stopped: call.cancelled, progress: call.progress }),
});
