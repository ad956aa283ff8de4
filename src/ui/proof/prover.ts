import { Later } from "../shell/later";

/** What of it takes longest to make ready: tables of letters, languages' stems, fonts' tables, what reads HTML. */
const LARGE_PARTS = [
  () => import("../../core/text/fold"),
  () => import("../../core/text/language"),
  () => import("../../core/measure/font"),
  () => import("../../core/text/plain"),
];

/**
 * What measures and proves texts in the browser. It is large, and nothing needs it before pages are there. Its parts are made ready each in a
 * task of its own: whoever types or scrolls meanwhile is not held up by all of them.
 */
export const PROVER = new Later(async () => {
  await Promise.all(LARGE_PARTS.map((load) => load()));
  return import("./prover-parts");
});

export type Prover = typeof import("./prover-parts");
