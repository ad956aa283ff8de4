import * as z from "zod";
import { type RedirectReport } from "../../core/addresses/fold-redirects";
import { readablePath } from "../../core/addresses/path-form";
import { isElsewhere } from "../../core/addresses/redirect";
import { bareHost } from "../../core/links/body-links";
import { Refusal } from "../../core/refusal";
import { type RefusedRedirect, readRedirects } from "../../formats/redirects-read";
import { addRedirects, setRetired } from "../../store/redirects";
import { readSite } from "../../store/site";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { idSchema, stretchSchema } from "../api/schemas";
import { type OpenedSite } from "../workspace/opened-site";

/** So much text of redirects is read at once. */
const MOST_TEXT = 64 * 1024 * 1024;

const given = z.object({ text: z.string().min(1).max(MOST_TEXT) });

/** What a text of redirects holds, and what would come of it among those that hold. */
export interface RedirectsLook {
  readonly redirects: number;
  /** Of which just as many hold already. */
  readonly known: number;
  readonly refused: readonly RefusedRedirect[];
  /** What is amiss with how many, and the first of it. */
  readonly reportCount: number;
  readonly reports: readonly RedirectReport[];
}

const MOST_REPORTS = 100;

async function read(site: OpenedSite, text: string) {
  const { baseUrl = "" } = readSite(site.db) ?? {};
  const own = URL.canParse(baseUrl) ? bareHost(new URL(baseUrl).host) : null;
  const { redirects, refused } = await readRedirects([text], (host) => bareHost(host) === own);
  return { redirects: redirects.map(({ redirect }) => redirect), refused };
}

export const redirectCalls = {
  figures: slowEndpoint(NOTHING, (site, _, { signal, progress, client }) =>
    site.proof.call("redirectFigures", undefined, { lane: `redirects ${client}`, signal, progress }),
  ),
  list: endpoint(
    stretchSchema.extend({
      search: z.string().max(200),
      origin: z.enum(["all", "run", "hand", "file"]),
      state: z.enum(["holds", "faulty", "retired"]),
    }),
    (site, asked, { signal }) => site.proof.call("redirectList", asked, { signal }),
  ),
  /** Where a path, or a whole address, leads. */
  way: endpoint(z.object({ path: z.string().trim().min(1).max(4000) }), (site, { path }, { signal }) => {
    const local = path.replace(/^(?:https?:)?\/\/[^/?#]*/i, "") || "/";
    if (!local.startsWith("/")) throw new Refusal("invalid", `“${path}” is no path; one begins with a slash`);
    return site.proof.call("redirectWay", { path: local }, { signal });
  }),
  /** What a text of redirects would do, before it is taken in. */
  look: endpoint(given, async (site, { text }, { signal }): Promise<RedirectsLook> => {
    const { redirects, refused } = await read(site, text);
    const { reports, known } = await site.proof.call("lookAtRedirects", { given: redirects }, { signal });
    const reportCount = reports.length;
    return { redirects: redirects.length, known, refused, reportCount, reports: reports.slice(0, MOST_REPORTS) };
  }),
  /** Takes in what a text of redirects holds; what is none was told by the look at it. */
  add: endpoint(given.extend({ origin: z.enum(["hand", "file"]) }), async (site, { text, origin }) => {
    const { redirects, refused } = await read(site, text);
    if (redirects.length === 0)
      throw new Refusal("invalid", refused[0]?.reason ?? "There is no redirect in it; one is such as /old-rope /rope");
    const readable = redirects.map((own) => ({
      ...own,
      from: readablePath(own.from),
      to: isElsewhere(own.to) ? own.to : readablePath(own.to),
    }));
    return { added: addRedirects(site.db, readable, origin, site.now()), refused: refused.length };
  }),
  retire: endpoint(z.object({ ids: z.array(idSchema).max(100_000) }), (site, { ids }) => ({
    changed: setRetired(site.db, ids, site.now()),
  })),
  restore: endpoint(z.object({ ids: z.array(idSchema).max(100_000) }), (site, { ids }) => ({
    changed: setRetired(site.db, ids, null),
  })),
};
