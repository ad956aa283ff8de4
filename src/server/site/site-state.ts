import { type Site } from "../../core/design/design";
import { type Kind, kindIds, kindOf, kindsOf } from "../../core/design/kinds";
import { Refusal } from "../../core/refusal";
import { readDraft, type StoredDraft } from "../../store/drafts";
import { countGone } from "../../store/gone";
import { countByKind } from "../../store/items";
import { type Db } from "../../store/open";
import { type StoredJob } from "../../store/jobs";
import { liveVersion } from "../../store/live";
import { linksVersion, mendsVersion } from "../../store/links";
import { redirectsVersion } from "../../store/redirects";
import { listRuns, type RunFigures, runsStamp } from "../../store/runs";
import { readSite, revision, settingsVersion, writeSite } from "../../store/site";
import { versionsStamp } from "../../store/versions";
import { connectionFigures, type ConnectionFigures } from "../../store/wire";
import { type OpenedSite } from "../workspace/opened-site";

/** A site as every screen needs it. */
export interface SiteState {
  readonly site: Site | null;
  readonly counts: Readonly<Record<Kind, number>>;
  /** How many pages are gone. */
  readonly gone: number;
  readonly revision: number;
  /** Counts up with every change of the settings. */
  readonly settings: number;
  /** Counts up with every change of the redirects that is no run’s. */
  readonly redirects: number;
  /** Counts up with every link of a body that is read or mended. */
  readonly links: number;
  /** Counts up with every page that is looked at on the live site. */
  readonly live: number;
  readonly drafts: Readonly<Record<Kind, StoredDraft>>;
  /** Another one with each version that is saved or deleted. */
  readonly versions: string;
  /** Another one with each run that is made, or is to go out at another time. */
  readonly runs: string;
  readonly lastRun: RunFigures | null;
  /** Where the site’s interface is, and whether changes go out over it; `null` for a site of files. */
  readonly connection: ConnectionFigures | null;
  readonly jobs: readonly StoredJob[];
}

export function siteState({ db, jobs }: OpenedSite): SiteState {
  const site = readSite(db);
  return {
    site,
    counts: countByKind(db),
    gone: countGone(db),
    revision: revision(db),
    settings: settingsVersion(db),
    redirects: redirectsVersion(db),
    links: linksVersion(db) + mendsVersion(db),
    drafts: Object.fromEntries(kindIds(site).map((kind) => [kind, readDraft(db, kind)])),
    versions: versionsStamp(db),
    runs: runsStamp(db),
    lastRun: listRuns(db, 1)[0] ?? null,
    live: liveVersion(db),
    connection: connectionFigures(db),
    jobs: jobs.list(),
  };
}

/** @throws {Refusal} where a kind would go that has pages, here or gone, or lines. */
function refuseLostKinds(db: Db, present: Site | null, next: Site): void {
  const lost = kindsOf(present).filter(({ id }) => !kindOf(next, id));
  const counts = countByKind(db);
  const gone = db.prepare("SELECT count(*) FROM gone_items WHERE kind = ?").pluck();
  for (const { id, one, many } of lost) {
    const pages = (counts[id] ?? 0) + (gone.get(id) as number);
    if (pages > 0)
      throw new Refusal(
        "invalid",
        `There ${pages === 1 ? `is 1 ${one}` : `are ${pages.toLocaleString("en")} ${many}`}, those that are gone among them: the kind “${id}” stays`,
      );
    const { base, rules, address } = readDraft(db, id).design;
    if (Object.keys(base).length + rules.length > 0 || address)
      throw new Refusal("invalid", `There are lines for ${many}: the kind “${id}” stays until they are gone`);
  }
}

/**
 * Stores the site's settings.
 *
 * @param seen the settings that the writer began with. @throws {Refusal} where they were changed elsewhere since.
 */
export function saveSettings(site: OpenedSite, settings: Site, seen: Site): SiteState {
  site.db
    .transaction(() => {
      const present = readSite(site.db);
      if (present && JSON.stringify(present) !== JSON.stringify(seen))
        throw new Refusal(
          "conflict",
          "The settings were changed in another window. Reload the page to see them; what you typed stays here until then.",
        );
      refuseLostKinds(site.db, present, settings);
      writeSite(site.db, settings);
    })
    .immediate();
  void site.warm();
  return siteState(site);
}
