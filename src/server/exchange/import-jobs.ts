import { type ByHandChoice } from "../../core/infer/by-hand";
import { type Mapping } from "../../formats/mapping";
import { type Db } from "../../store/open";
import { type Call } from "../threads/call";
import { bringIn } from "./bring-in";
import { uploadedFile } from "./uploads";

interface ImportAsked {
  readonly token: string;
  readonly name: string;
  readonly mapping: Mapping;
  readonly byHand: ByHandChoice;
}

/** What the thread that writes does for files of pages. */
export const importJobs = (db: Db, now: () => string) => ({
  bringIn: ({ token, name, mapping, byHand }: ImportAsked, call: Call) =>
    bringIn(db, uploadedFile(token), name, mapping, byHand, { now, stopped: call.cancelled, progress: call.progress }),
});
