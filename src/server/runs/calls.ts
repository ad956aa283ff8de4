import * as z from "zod";
import { changesAfter, listRuns } from "../../store/runs";
import { readSite } from "../../store/site";
import { wireFigures } from "../../store/wire";
import { endpoint, NOTHING } from "../api/endpoint";
import { idSchema } from "../api/schemas";
import { drawnChange } from "./drawn-changes";
import { existing, goOnWithRun, scheduleRun, startRun, startTakeBack, stopRun } from "./run-work";

const ofRun = z.object({ id: idSchema });
/** So many changes are given at once. */
const PAGE = 200;

export const runCalls = {
  list: endpoint(NOTHING, (site) => ({ runs: listRuns(site.db), jobs: site.jobs.list() })),
  read: endpoint(ofRun, (site, { id }) => {
    const run = existing(site, id);
    return { ...run, wire: run.over_wire === 1 ? wireFigures(site.db, id) : null };
  }),
  /** A page of a run's changes: those behind a change's id. */
  changes: endpoint(ofRun.extend({ after: z.number().int().min(0) }), ({ db }, { id, after }) => {
    const site = readSite(db);
    return site ? changesAfter(db, id, after, PAGE).map((change) => drawnChange(change, site)) : [];
  }),
  /** Writes down what the review that was looked at takes in, and begins to apply it. */
  start: endpoint(
    z.object({
      goingOut: z.string().max(100),
      name: z.string().trim().max(200).default(""),
      click: z.string().min(8).max(60),
      /** Whether it was said that it goes out over the site’s interface; left out, it goes as it may. */
      overWire: z.boolean().optional(),
      /** When it is to go out by itself; `null`: now. */
      dueAt: z.iso.datetime().nullable().default(null),
    }),
    async (site, asked, { client }) => ({ run: await startRun(site, asked, client) }),
  ),
  goOn: endpoint(ofRun, (site, { id }, { client }) => {
    goOnWithRun(site, id, client);
    return { run: id };
  }),
  /** Says when a run that was not begun goes out by itself; `null`: when somebody says so. */
  schedule: endpoint(ofRun.extend({ dueAt: z.iso.datetime().nullable() }), (site, { id, dueAt }) => {
    scheduleRun(site, id, dueAt);
    return { run: id };
  }),
  stop: endpoint(ofRun, (site, { id }) => {
    stopRun(site, id);
    return { run: id };
  }),
  takeBack: endpoint(ofRun, async (site, { id }, { client }) => ({ run: await startTakeBack(site, id, client) })),
};
