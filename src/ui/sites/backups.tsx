import type { Backup } from "../../server/sites/backups";
import type { SiteCard } from "../../server/sites/site-card";
import { PLAIN_ACTION } from "../shell/actions";
import { call } from "../shell/api";
import { counted, when } from "../shell/format";
import type { Doing } from "./doing";
import { megabytes } from "./megabytes";

/** The sites as they were: a copy a day of each that changed. */
export function Backups({
  backups,
  sites,
  doing,
}: {
  backups: readonly Backup[];
  sites: readonly SiteCard[];
  doing: Doing;
}) {
  if (backups.length === 0) return null;
  const nameOf = (id: string) => sites.find((site) => site.id === id)?.name ?? id;
  return (
    <details className="mt-6">
      <summary className="border-b border-key pb-1">
        <b>Backups</b> <span className="text-soft">{counted(backups.length, "copy", "copies")}, made once a day</span>
      </summary>
      <ul>
        {backups.map(({ file, id, at, bytes }) => (
          <li key={file} className="flex flex-wrap items-baseline gap-x-4 border-b border-hair px-4 py-2">
            <span className="flex-1">{nameOf(id)}</span>
            <span className="text-soft">
              as on {when(at)}, {megabytes(bytes)}
            </span>
            <button
              type="button"
              className={PLAIN_ACTION}
              onClick={() => void doing(`Creating a site from the backup …`, () => call("sites.ofBackup", { file }))}
            >
              Restore as a new site
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
