import { useParams, useRouter as useNextRouter } from "next/navigation";
import { useCallback, useMemo } from "react";

/** The site that the page in this window is about, by its id: the first part of the address. `""` where there is none. */
export function siteId(): string {
  return typeof window === "undefined" ? "" : (window.location.pathname.split("/")[1] ?? "");
}

/** A path within the site as the server knows it. In the browser only: while a page is being made use {@link useSitePath}. */
export function sitePath(path: string): string {
  return within(siteId(), path);
}

function within(site: string, path: string): string {
  if (site === "") return path;
  return path === "/" ? `/${site}` : `/${site}${path}`;
}

/** Puts paths within the site in front of which the page is made. */
export function useSitePath(): (path: string) => string {
  const { site } = useParams<{ site?: string }>();
  return useCallback((path: string) => within(site ?? "", path), [site]);
}

/** Goes to paths within the site. */
export function useRouter(): { push: (path: string) => void } {
  const { push } = useNextRouter();
  const pathOf = useSitePath();
  return useMemo(() => ({ push: (path: string) => push(pathOf(path)) }), [push, pathOf]);
}

/** Goes to another site. All that this window holds is of this one, so the page is loaded anew. */
export function openSite(id: string): void {
  window.location.assign(`/${id}`);
}
