import type { RemovedSite } from "../../server/sites/site-files";
import { PLAIN_ACTION } from "../shell/actions";
import { call } from "../shell/api";
import { ago, counted } from "../shell/format";
import type { Doing } from "./doing";

/** Sites that were removed and are still kept. */
export function RemovedSites({ removed, doing }: { removed: readonly RemovedSite[]; doing: Doing }) {
  if (removed.length === 0) return null;
  return (
    <section aria-labelledby="removed-title" className="mt-6">
      <h2 id="removed-title" className="border-b border-key pb-1 font-bold">
        Removed
      </h2>
      <ul>
        {removed.map(({ file, name, removedAt, daysLeft }) => (
          <li key={file} className="flex flex-wrap items-baseline gap-x-4 border-b border-hair px-4 py-2">
            <span className="flex-1">{name}</span>
            <span className="text-soft">
              removed {ago(removedAt)}, gone in {counted(daysLeft, "day", "days")}
            </span>
            <button
              type="button"
              className={PLAIN_ACTION}
              onClick={() => void doing(`Restoring ${name} back …`, () => call("sites.bringBack", { file }))}
            >
              Restore
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
