import { type Redirect } from "../../core/addresses/redirect";
import { type RedirectForm } from "../../core/addresses/redirect-forms";
import { writeRedirects } from "../../formats/redirects-write";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type RedirectFilter, type RedirectSet } from "./redirect-set";

/** So much text is handed over at once. */
const PIECE = 1 << 16;

/** What the worker answers about redirects. */
export const redirectMethods = (set: RedirectSet) => ({
  redirectFigures: (_: undefined, call: Call) => set.figures(watching(call)),
  redirectList: ({ from, count, ...filter }: RedirectFilter & { from: number; count: number }, call: Call) =>
    set.list(filter, { from, count }, watching(call)),
  pathsToPage: ({ path, most }: { path: string; most: number }, call: Call) => {
    const paths = set.pathsTo(path, watching(call));
    return { total: paths.length, paths: paths.slice(0, most) };
  },
  unansweredPaths: ({ paths }: { paths: readonly string[] }, call: Call) => set.unanswered(paths, watching(call)),
  redirectWay: ({ path }: { path: string }, call: Call) => set.way(path, watching(call)),
  lookAtRedirects: ({ given }: { given: readonly Redirect[] }, call: Call) => set.look(given, watching(call)),
  writtenRedirects: ({ form, isCompact }: { form: RedirectForm; isCompact: boolean }, call: Call) => {
    const pieces: string[] = [];
    let open = "";
    for (const line of writeRedirects(form, set.outgoing(isCompact, watching(call)))) {
      open += line;
      if (open.length < PIECE) continue;
      pieces.push(open);
      open = "";
    }
    return [...pieces, open];
  },
});
