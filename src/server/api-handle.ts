import type { Api } from "./api/api";
import type { SitesApi } from "./sites/sites-api";

/**
 * What answers requests, made by the server before it listens. Routes reach it through this handle and not by importing it, so
 * that the database driver and the threads stay out of their bundles.
 */
export function sitesApi(): SitesApi {
  const made = (globalThis as { nineLinesApi?: SitesApi }).nineLinesApi;
  if (!made) throw new Error("The server is not running; start the application with npm start");
  return made;
}

/** Hands a request about a site to what answers for it; where there is none, or it cannot be opened, the answer says so. */
export function onSite(
  { params }: { readonly params: Promise<{ site: string }> },
  work: (api: Api) => Response | Promise<Response>,
): Promise<Response> {
  return params.then(({ site }) => sitesApi().answer(site, work));
}

/** Makes an API the one that routes find. */
export function provideApi(made: SitesApi): void {
  (globalThis as { nineLinesApi?: SitesApi }).nineLinesApi = made;
}
