import { type Db } from "../../store/open";
import { stopInterruptedEdits } from "../../store/edits";
import { type Call } from "../threads/call";
import { applyEdit } from "./apply-edit";

/** What the thread that writes does for steps of editing. */
export const editJobs = (db: Db) => ({
  applyEdit: ({ edit, goal }: { edit: number; goal: "set" | "undone" }, call: Call): "done" | "stopped" => {
    try {
      return applyEdit(db, edit, goal, { stopped: call.cancelled, progress: call.progress });
    } catch (error) {
      try {
        stopInterruptedEdits(db);
      } catch {
        // Where nothing can be written, the next start marks the step as stopped.
      }
      throw error;
    }
  },
});
