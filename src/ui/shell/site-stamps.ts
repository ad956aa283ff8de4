import type { SiteState } from "../../server/site/site-state";

/** What the answers of screens rest on: the items, the settings, the redirects, the drafts. */
export function siteStamp({ revision, settings, redirects, drafts }: SiteState): string {
  return [revision, settings, redirects, ...Object.values(drafts).map(({ version }) => version)].join(" ");
}

/** The same with the versions, for what is said of them. */
export function versionsStamp(state: SiteState): string {
  return `${siteStamp(state)} ${state.versions}`;
}

/** The same without the drafts, for answers to a design that is asked with. */
export function pagesStamp({ revision, settings }: SiteState): string {
  return `${revision} ${settings}`;
}
