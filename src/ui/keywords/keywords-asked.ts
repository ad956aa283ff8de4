import type { SiteState } from "../../server/site/site-state";
import { asked, askedWindow, LIST_WINDOW } from "../shell/asked";
import { siteStamp } from "../shell/site-stamps";

/** @param lists how many lists were imported since the screen was opened. */
export function keywordsStamp(state: SiteState, lists: number): string {
  return `${siteStamp(state)} ${lists}`;
}

/** What Keywords asks for first, where its address says nothing. */
export function keywordsAsked(state: SiteState) {
  const stamp = keywordsStamp(state, 0);
  return [
    asked("keywords.matrix", {}, stamp),
    askedWindow("keywords.coverage", { show: "all", search: "" }, stamp, { size: LIST_WINDOW }),
  ];
}
