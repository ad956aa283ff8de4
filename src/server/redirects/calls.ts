import * as z from "zod";
import { type RedirectReport } from "../../core/addresses/fold-redirects";
import { readablePath } from "../../core/addresses/path-form";
import { type RedirectAge, REDIRECT_AGES } from "../../core/addresses/redirect-forms";
import { type RedirectFilter } from "./redirect-set";
import {
  REDIRECT_STATUSES,
  isElsewhere,
  readRedirect,
  type Redirect,
  RedirectError,
} from "../../core/addresses/redirect";
import { bareHost } from "../../core/links/body-links";
import { Refusal } from "../../core/refusal";
import { type RefusedRedirect, readRedirects } from "../../formats/redirects-read";
import { addRedirects, setRetired } from "../../store/redirects";
import { gonePaths } from "../../store/gone";
import { chosenGone } from "../items/gone-pages";
import { addressOfPage } from "../../store/items";
import { readSite } from "../../store/site";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { goneChoiceSchema, idSchema, stretchSchema } from "../api/schemas";
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

/** Whether a host is the site’s, with or without `www.`. */
function ownHost(site: OpenedSite): (host: string) => boolean {
  const { baseUrl = "" } = readSite(site.db) ?? {};
  const own = URL.canParse(baseUrl) ? bareHost(new URL(baseUrl).host) : null;
  return (host) => bareHost(host) === own;
}

async function read(site: OpenedSite, text: string) {
  const { redirects, refused } = await readRedirects([text], ownHost(site));
  return { redirects: redirects.map(({ redirect }) => redirect), refused };
}

/** A redirect from a path that a person wrote, with or without the host. @throws {Refusal} */
function pathOfPage(site: OpenedSite, path: string, to: string): Redirect {
  try {
    return readRedirect({ from: path, to, status: "" }, ownHost(site));
  } catch (error) {
    if (error instanceof RedirectError) throw new Refusal("invalid", error.message);
    throw error;
  }
}

const DAY = 24 * 60 * 60 * 1000;

/** When what has an age was made. */
function madeIn(age: RedirectAge, now: string): Pick<RedirectFilter, "since" | "before"> {
  const daysAgo = (days: number) => new Date(Date.parse(now) - days * DAY).toISOString();
  return {
    since: { any: null, week: daysAgo(7), month: daysAgo(30), older: null }[age],
    before: age === "older" ? daysAgo(365) : null,
  };
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
      status: z.union([z.literal("all"), z.literal(REDIRECT_STATUSES)]).default("all"),
      age: z.enum(REDIRECT_AGES).default("any"),
    }),
    (site, { age, ...asked }, { signal }) =>
      site.proof.call("redirectList", { ...asked, ...madeIn(age, site.now()) }, { signal }),
  ),
  /** Where a path, or a whole address, leads. */
  way: endpoint(z.object({ path: z.string().trim().min(1).max(4000) }), (site, { path }, { signal }) => {
    const local = path.replace(/^(?:https?:)?\/\/[^/?#]*/i, "") || "/";
    if (!local.startsWith("/")) throw new Refusal("invalid", `“${path}” is no path; one begins with a slash`);
    return site.proof.call("redirectWay", { path: local }, { signal });
  }),
  /** The paths that lead to the page at a path. */
  toPage: endpoint(
    z.object({ path: z.string().min(1).max(4000), most: z.number().int().min(1).max(500) }),
    (site, asked, { signal }) => site.proof.call("pathsToPage", asked, { signal }),
  ),
  /** Gives a page a further path, which leads to it wherever it moves. */
  addPath: endpoint(
    z.object({ page: idSchema, path: z.string().trim().min(1).max(4000) }),
    async (site, { page, path }, { signal }) => {
      const to = addressOfPage(site.db, page);
      if (!to) throw new Refusal("invalid", "The page has no address that a path could lead to");
      const own = pathOfPage(site, path, to);
      const { by, page: there, to: leads } = await site.proof.call("redirectWay", { path: own.from }, { signal });
      if (by === "page")
        throw new Refusal(
          "conflict",
          `“${there?.name || own.from}” is at ${readablePath(own.from)}: a page’s own address leads nowhere else`,
        );
      if (leads !== null && there?.id === page) throw new Refusal("conflict", "That path leads here already");
      const given = { ...own, from: readablePath(own.from), to };
      return { added: addRedirects(site.db, [given], "hand", site.now()), ledTo: leads };
    },
  ),
  /** Lets the addresses of pages that are gone answer that they are gone for good, where nothing else answers there. */
  goneForGood: endpoint(z.object({ pages: goneChoiceSchema }), async (site, { pages }, { signal }) => {
    const paths = gonePaths(site.db, chosenGone(site.db, pages));
    const unanswered = await site.proof.call("unansweredPaths", { paths }, { signal });
    const redirects = unanswered.map((from): Redirect => ({ from, to: "", status: 410, prefix: false }));
    const added = addRedirects(site.db, redirects, "hand", site.now());
    return { added, answered: paths.length - unanswered.length };
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
