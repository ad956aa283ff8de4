import { Later } from "../shell/later";

/** What a single page is looked at and written by hand with. */
export const PAGE_TOOLS = new Later(() => import("./page-tools"));
