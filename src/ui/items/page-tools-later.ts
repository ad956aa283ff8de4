import { Later } from "../shell/later";

/** What pages are looked at singly, written by hand, edited together and exported with. */
export const PAGE_TOOLS = new Later(() => import("./page-tools"));
