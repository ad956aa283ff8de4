import { type JobWorker } from "../jobs/job-queue";
import { forgetFile } from "../exchange/uploads";
import { type OpenedSite } from "../workspace/opened-site";
import { type KeywordMapping } from "./bring-keywords";

export interface KeywordParams {
  readonly token: string;
  readonly mapping: KeywordMapping;
}

export const keywordWorker =
  (site: OpenedSite): JobWorker<KeywordParams> =>
  async (params, { signal, tell }) => {
    const progress = (rows: unknown) => tell({ done: rows as number });
    try {
      return { state: "done", result: await site.writer.call("bringKeywords", params, { signal, progress }) };
    } finally {
      forgetFile(params.token);
    }
  };
