import { type Kind } from "../../core/design/kinds";
import { linksRead } from "../../store/links";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { type LinkFilter, type LinkSet } from "./link-set";

interface Stretch {
  readonly from: number;
  readonly count: number;
}

/** What the worker answers about links. */
export const linkMethods = (workspace: Workspace, links: LinkSet) => ({
  linkFigures: (_: undefined, call: Call) => {
    const read = linksRead(workspace.db);
    // What is found while some bodies are not read yet would be wrong.
    return { ...read, found: read.unread > 0 ? null : links.figures(watching(call)) };
  },
  linkList: ({ from, count, ...filter }: LinkFilter & Stretch, call: Call) => ({
    unread: linksRead(workspace.db).unread,
    version: links.version,
    ...links.list(filter, { from, count }, watching(call)),
  }),
  linkOrphans: (asked: Stretch & { readonly kind: Kind | null }, call: Call) => links.orphans(asked, watching(call)),
  linkProposals: (filter: LinkFilter, call: Call) => links.proposals(filter, watching(call)),
});
