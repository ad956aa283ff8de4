import pino from "pino";

/** One line of JSON an event on standard error: what happened and to what, never a page's texts. */
export const log = pino(
  { base: null, timestamp: pino.stdTimeFunctions.isoTime, level: process.env["NINE_LINES_LOG"] ?? "info" },
  pino.destination({ dest: 2, sync: true }),
);
