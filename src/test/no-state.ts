import type { SiteState } from "../server/site/site-state";

/** What the server says of a site where there is nothing yet. */
export const NO_STATE: SiteState = {
  site: null,
  counts: {},
  gone: 0,
  revision: 1,
  settings: 1,
  redirects: 0,
  links: 0,
  live: 0,
  drafts: {},
  versions: "0 0 ",
  runs: "0",
  lastRun: null,
  connection: null,
  jobs: [],
};
