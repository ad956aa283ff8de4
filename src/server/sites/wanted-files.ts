import { siteFile, siteIds } from "../../store/data-folder";
import { openJobs } from "../../store/jobs";
import { openStore } from "../../store/open";
import { log } from "../log";

/** The received files that open jobs need, by their tokens. */
export interface WantedFiles {
  readonly tokens: ReadonlySet<string>;
  /** Whether those are all: a site that cannot be read now may want others. */
  readonly isSure: boolean;
}

export function filesWanted(): WantedFiles {
  const tokens = new Set<string>();
  let isSure = true;
  for (const id of siteIds()) {
    try {
      const db = openStore(siteFile(id), { readonly: true });
      try {
        for (const { params } of openJobs(db)) {
          const { token } = params as { token?: string };
          if (token !== undefined) tokens.add(token);
        }
      } finally {
        db.close();
      }
    } catch (error) {
      log.warn({ event: "site-unread", site: id, error: error instanceof Error ? error.message : String(error) });
      isSure = false;
    }
  }
  return { tokens, isSure };
}
