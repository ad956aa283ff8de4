import { siteFile, siteIds } from "../../store/data-folder";
import { openJobs } from "../../store/jobs";
import { openStore } from "../../store/open";
import { isRefusal } from "../threads/call";
import { log } from "../log";

/** The received files that open jobs of any site need; `null` where a site cannot be read, so that nobody knows. */
export function filesWanted(): Set<string> | null {
  const wanted = new Set<string>();
  for (const id of siteIds()) {
    try {
      const db = openStore(siteFile(id), { readonly: true });
      try {
        for (const { params } of openJobs(db)) {
          const { token } = params as { token?: string };
          if (token !== undefined) wanted.add(token);
        }
      } finally {
        db.close();
      }
    } catch (error) {
      log.warn({ event: "site-unread", site: id, error: error instanceof Error ? error.message : String(error) });
      if (!isRefusal(error)) return null;
    }
  }
  return wanted;
}
