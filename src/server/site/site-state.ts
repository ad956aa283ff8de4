import { type Site } from "../../core/design/design";
import { KINDS, type Kind } from "../../core/design/kinds";
import { Refusal } from "../../core/refusal";
import { readDesign, type StoredDesign } from "../../store/designs";
import { countGone } from "../../store/gone";
import { countByKind } from "../../store/items";
import { type StoredJob } from "../../store/jobs";
import { listRuns, type RunFigures } from "../../store/runs";
import { readSite, revision, settingsVersion, writeSite } from "../../store/site";
import { type OpenedSite } from "../workspace/opened-site";

/** A site as every screen needs it. */
export interface SiteState {
  readonly site: Site | null;
  readonly counts: Partial<Record<Kind, number>>;
  /** How many pages are gone. */
  readonly gone: number;
  readonly revision: number;
  /** Counts up with every change of the settings. */
  readonly settings: number;
  readonly drafts: Readonly<Record<(typeof KINDS)[number], StoredDesign>>;
  readonly kept: Readonly<Record<(typeof KINDS)[number], StoredDesign>>;
  readonly lastRun: RunFigures | null;
  readonly jobs: readonly StoredJob[];
}

export function siteState({ db, jobs }: OpenedSite): SiteState {
  const designs = (state: "draft" | "kept") =>
    Object.fromEntries(KINDS.map((kind) => [kind, readDesign(db, state, kind)])) as SiteState["drafts"];
  return {
    site: readSite(db),
    counts: countByKind(db),
    gone: countGone(db),
    revision: revision(db),
    settings: settingsVersion(db),
    drafts: designs("draft"),
    kept: designs("kept"),
    lastRun: listRuns(db, 1)[0] ?? null,
    jobs: jobs.list(),
  };
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
      writeSite(site.db, settings);
    })
    .immediate();
  void site.warm();
  return siteState(site);
}
