import type { SiteState } from "../../server/site/site-state";
import { asked, askedWindow, LIST_WINDOW } from "../shell/asked";
import { siteStamp } from "../shell/site-stamps";

/** @param opened of which opening of the screen it is. @param lists how many lists were imported since. */
export function keywordsStamp(state: SiteState, opened: string, lists: number): string {
  return `${siteStamp(state)} ${opened} ${lists}`;
}

/** What Keywords asks for first, where its address says nothing. */
export function keywordsAsked(state: SiteState, opened: string) {
  const stamp = keywordsStamp(state, opened, 0);
  return [
    asked("keywords.matrix", {}, stamp),
    askedWindow("keywords.coverage", { show: "all", search: "" }, stamp, { size: LIST_WINDOW }),
  ];
}
