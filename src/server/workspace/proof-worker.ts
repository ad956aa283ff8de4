import { workerData } from "node:worker_threads";
import { openStore } from "../../store/open";
import { revision } from "../../store/site";
import { syncSearch } from "../../store/search";
import { BenchDesk } from "../bench/bench-desk";
import { benchMethods } from "../bench/methods";
import { exchangeMethods } from "../exchange/methods";
import { editMethods } from "../edits/methods";
import { ExtraDesk } from "../extras/extra-desk";
import { extraMethods } from "../extras/methods";
import { nearThread } from "../findings/near-thread";
import { SiteFindings } from "../findings/site-findings";
import { ItemsList } from "../items/items-list";
import { itemMethods } from "../items/methods";
import { KeywordDesk } from "../keywords/keyword-desk";
import { keywordMethods } from "../keywords/methods";
import { LinkSet } from "../links/link-set";
import { linkMethods } from "../links/methods";
import { redirectMethods } from "../redirects/methods";
import { RedirectSet } from "../redirects/redirect-set";
import { Review } from "../review/review";
import { MovesAlong } from "../review/moves-along";
import { reviewMethods } from "../review/methods";
import { settingsMethods } from "../site/methods";
import { SettingsMoves } from "../site/settings-moves";
import { type Call } from "../threads/call";
import { serveWorker } from "../threads/serve-worker";
import { Activity } from "./activity";
import { type RefusedLines } from "./line-guard";
import { LiveAhead } from "./live-ahead";
import { Workspace } from "./workspace";

/** What the proof worker is started with. */
export interface ProofWorkerData {
  readonly path: string;
  readonly nearWorker: string;
  readonly liveWorker: string;
  readonly activity: SharedArrayBuffer;
  readonly refused: RefusedLines;
}

const { path, stop, nearWorker, liveWorker, activity, refused } = workerData as ProofWorkerData & { stop: Int32Array };
const db = openStore(path);
const ahead = new LiveAhead(liveWorker, path);
const workspace = new Workspace(db, { activity: new Activity(activity), refused, ahead });
const bench = new BenchDesk(workspace);
const redirects = new RedirectSet(workspace);
const findings = new SiteFindings(workspace, () => new Date().getFullYear(), nearThread(nearWorker), redirects);
const list = new ItemsList(workspace, findings);
const extras = new ExtraDesk(workspace);
const links = new LinkSet(workspace, redirects);
const edits = editMethods(workspace, list);
const keywords = keywordMethods(workspace, new KeywordDesk(workspace, list));
const along = new MovesAlong(workspace, links, redirects);
const review = reviewMethods(workspace, new Review(workspace, (designs, watch) => list.views(designs, watch), along));

/** Answers at one moment of the site: whatever is written meanwhile, an answer is of one piece. */
function atOneMoment<P, R>(method: (params: P, call: Call) => R): (params: P, call: Call) => R {
  return (params, call) => workspace.at(() => method(params, call));
}

type Method = (params: never, call: Call) => unknown;

function allAtOneMoment<T extends Record<string, Method>>(methods: T): T {
  return Object.fromEntries(
    Object.entries(methods).map(([name, method]) => [
      name,
      atOneMoment(method as (params: unknown, call: Call) => unknown),
    ]),
  ) as unknown as T;
}

const asking = allAtOneMoment({
  ...benchMethods(workspace, bench),
  ...extraMethods(workspace, extras),
  ...itemMethods(workspace, list),
  ...exchangeMethods(workspace, list, extras),
  ...linkMethods(workspace, links),
  ...redirectMethods(redirects),
  ...settingsMethods(new SettingsMoves(workspace)),
  planEdit: edits.planEdit,
  ...keywords.asking,
  ...review.asking,
});

/** What the proof worker answers. What writes takes care itself that it rests on one moment. */
const proofMethods = {
  ...asking,
  items: (params: Parameters<typeof asking.items>[0], call: Call) => {
    // Before the moment that is looked at begins: nothing can be written in it.
    if (params.query.search.trim() !== "") syncSearch(db, revision(db));
    return asking.items(params, call);
  },
  makeEdit: edits.makeEdit,
  ...keywords.writing,
  ...review.writing,
};

export type ProofMethods = typeof proofMethods;

serveWorker(proofMethods, stop);
