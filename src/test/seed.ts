import fc from "fast-check";

/**
 * Property tests draw the same examples each time, so that a change is told by what it breaks and not by luck.
 * `NINE_LINES_SEED` names other ones; `random` draws them anew.
 */
const named = process.env.NINE_LINES_SEED;
if (named !== "random") fc.configureGlobal({ seed: named === undefined ? 20_261_126 : Number(named) });
