import * as z from "zod";
import { endpoint, NOTHING } from "../api/endpoint";
import { idSchema } from "../api/schemas";

export const jobCalls = {
  /** The last jobs, the newest first. */
  list: endpoint(NOTHING, (site) => site.jobs.list()),
  /** Stops a job. What it has done stays done. */
  stop: endpoint(z.object({ id: idSchema }), (site, { id }) => site.jobs.stop(id)),
};
