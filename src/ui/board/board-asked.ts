import type { SiteState } from "../../server/site/site-state";
import { asked } from "../shell/asked";
import { siteStamp } from "../shell/site-stamps";

/** What the Board asks for first. */
export const boardAsked = (state: SiteState) => [asked("bench.board", {}, siteStamp(state))];
