import { type Site } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { kindIds } from "../../core/design/kinds";
import { Refusal } from "../../core/refusal";
import { readDraft } from "../../store/drafts";
import { type Db } from "../../store/open";
import { readSite, settingsVersion, revision } from "../../store/site";

/** A site as it stands at one moment: all that is derived rests on its settings, its drafts and its items. */
export interface Moment {
  readonly site: Site;
  /** The number of the last change to items. */
  readonly revision: number;
  readonly drafts: Designs;
  /** Another one where settings, drafts or items are. */
  readonly stamp: string;
}

/** @throws {Refusal} where there is no site yet. */
export function readMoment(db: Db): Moment {
  const site = readSite(db);
  if (!site) throw new Refusal("not-found", "There are no pages yet. Import a file of pages, or create the demo site");
  const drafts = kindIds(site).map((kind) => [kind, readDraft(db, kind)] as const);
  const now = revision(db);
  return {
    site,
    revision: now,
    drafts: Object.fromEntries(drafts.map(([kind, stored]) => [kind, stored.design])),
    stamp: [now, settingsVersion(db), ...drafts.map(([, { version }]) => version)].join("."),
  };
}
