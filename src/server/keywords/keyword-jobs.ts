import { type Db } from "../../store/open";
import { type Call } from "../threads/call";
import { bringKeywords, type KeywordMapping } from "./bring-keywords";

/** What the thread that writes does for the list of keywords. */
export const keywordJobs = (db: Db) => ({
  bringKeywords: ({ token, mapping }: { token: string; mapping: KeywordMapping }, call: Call) =>
    bringKeywords(db, token, mapping, call.progress),
});
