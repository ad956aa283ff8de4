import * as z from "zod";
import { LIVE_FINDINGS, type LiveFinding } from "../../core/live/finding-words";
import { addedTexts, liveFigures, liveFindingCounts, livePagesAfter } from "../../store/live";
import { endpoint, NOTHING } from "../api/endpoint";
import { idSchema } from "../api/schemas";
import { startCheck } from "./check-work";
import { takeTheme, themeOf } from "./theme";

const findings = Object.keys(LIVE_FINDINGS) as [LiveFinding, ...LiveFinding[]];
const scope = z.union([
  z.strictObject({ run: idSchema }),
  z.strictObject({ sample: z.number().int().min(1).max(100_000) }),
  z.strictObject({ all: z.literal(true) }),
]);
/** So many pages are given at once. */
const PAGE = 100;

export const liveCalls = {
  /** What was found on the live site, and what its theme adds. */
  summary: endpoint(NOTHING, ({ db }) => {
    const counts = liveFindingCounts(db);
    return {
      ...liveFigures(db),
      findings: findings.flatMap((finding) => {
        const count = counts.get(finding) ?? 0;
        return count === 0 ? [] : [{ finding, words: LIVE_FINDINGS[finding], count }];
      }),
      theme: themeOf(db, addedTexts(db)),
    };
  }),
  /** Pages that were looked at, with a finding or all: those behind a page’s id. */
  pages: endpoint(
    z.object({ finding: z.enum(findings).nullable(), after: z.number().int().min(0) }),
    ({ db }, { finding, after }) => livePagesAfter(db, finding, after, PAGE),
  ),
  /** Begins to look at pages as visitors get them; its progress is a job. */
  check: endpoint(z.object({ scope }), (site, asked, { client }) => ({ job: startCheck(site, asked.scope, client) })),
  /** Makes the surfaces narrower by what the theme adds to a text. */
  takeTheme: endpoint(
    z.object({ text: z.enum(["title", "description"]), before: z.string().max(1000), behind: z.string().max(1000) }),
    (site, asked) => takeTheme(site, asked),
  ),
};
