import * as z from "zod";
import { LINK_FINDINGS } from "../../core/links/finding-names";
import { Refusal } from "../../core/refusal";
import { dropMends, hasLink, mendLinks } from "../../store/links";
import { endpoint, NOTHING, slowEndpoint } from "../api/endpoint";
import { idSchema, kindSchema, stretchSchema } from "../api/schemas";

const filterSchema = z.object({
  finding: z.enum([...LINK_FINDINGS, "all", "mended"]),
  search: z.string().max(200),
  on: idSchema.nullable(),
  to: idSchema.nullable(),
});
/** The same as the query of an address has it. */
export const linkFilterSchema = z.object({
  finding: filterSchema.shape.finding.default("all"),
  search: filterSchema.shape.search.default(""),
  on: z.coerce.number().pipe(idSchema).nullable().default(null),
  to: z.coerce.number().pipe(idSchema).nullable().default(null),
});
const hrefSchema = z.string().max(4000);
const linkSchema = z.object({ item: idSchema, href: hrefSchema });
/** So many links are mended at once. */
const MOST_MENDS = 200_000;

export const linkCalls = {
  /** What is found of all links; `found` is `null` while bodies are still being read. */
  figures: slowEndpoint(NOTHING, (site, _, { signal, progress, client }) => {
    site.links.kick();
    return site.proof.call("linkFigures", undefined, { lane: `links ${client}`, signal, progress });
  }),
  list: endpoint(stretchSchema.extend(filterSchema.shape), (site, asked, { signal }) =>
    site.proof.call("linkList", asked, { signal }),
  ),
  /** Pages that no link of another page’s body leads to. */
  orphans: endpoint(stretchSchema.extend({ kind: kindSchema.nullable() }), (site, asked, { signal }) =>
    site.proof.call("linkOrphans", asked, { signal }),
  ),
  /** Says what a link is to say from now on, on its page; it waits in the review. */
  mend: endpoint(z.object({ item: idSchema, href: hrefSchema, after: hrefSchema.trim() }), ({ db }, mend) => {
    if (mend.after === "" || /\s/.test(mend.after))
      throw new Refusal("invalid", "Write where the link is to lead: a path such as /rope/twine, or a whole address");
    if (!hasLink(db, mend.item, mend.href))
      throw new Refusal("stale", "That link is no longer on the page. Look at the list again.");
    return { mended: mendLinks(db, [mend]) };
  }),
  /** Mends all links that a filter leaves and of which something is proposed. */
  mendAll: endpoint(filterSchema, async (site, filter, { signal }) => {
    const proposals = await site.proof.call("linkProposals", filter, { signal });
    if (proposals.length > MOST_MENDS)
      throw new Refusal("invalid", `That are ${proposals.length.toLocaleString("en")} links; search for some of them`);
    mendLinks(site.db, proposals);
    return { links: proposals.map(({ item, href }) => ({ item, href })) };
  }),
  /** Takes what links were to say back; without any named, of all. */
  unmend: endpoint(z.object({ links: z.array(linkSchema).max(MOST_MENDS).nullable() }), ({ db }, { links }) => ({
    unmended: dropMends(db, links),
  })),
};
