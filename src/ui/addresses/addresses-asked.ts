import type { SiteState } from "../../server/site/site-state";
import { asked, askedWindow, LIST_WINDOW } from "../shell/asked";
import { siteStamp } from "../shell/site-stamps";

/** @param opened of which opening of the screen it is: what another window ticked is seen the next time. @param ticks own ticks since. */
export function movesStamp(state: SiteState, opened: string, ticks: number): string {
  return `${siteStamp(state)} ${state.links} ${opened} ${ticks}`;
}

/** What Addresses asks for first, where its address says nothing. */
export function addressesAsked(state: SiteState, opened: string) {
  const stamp = movesStamp(state, opened, 0);
  return [
    asked("review.folders", { within: "/" }, stamp),
    askedWindow("review.moves", { folder: "/", search: "", show: "all" }, stamp, { size: LIST_WINDOW }),
  ];
}
