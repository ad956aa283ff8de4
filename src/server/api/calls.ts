import { benchCalls } from "../bench/calls";
import { designCalls } from "../designs/calls";
import { editCalls } from "../edits/calls";
import { exchangeCalls } from "../exchange/calls";
import { extraCalls } from "../extras/calls";
import { itemCalls } from "../items/calls";
import { jobCalls } from "../jobs/calls";
import { keywordCalls } from "../keywords/calls";
import { linkCalls } from "../links/calls";
import { liveCalls } from "../live/calls";
import { redirectCalls } from "../redirects/calls";
import { reviewCalls } from "../review/calls";
import { runCalls } from "../runs/calls";
import { siteCalls } from "../site/calls";
import { wireCalls } from "../wire/calls";

/** Everything that the interface can ask of the server, by room and name: `review.summary`. */
export const calls = {
  bench: benchCalls,
  designs: designCalls,
  edits: editCalls,
  exchange: exchangeCalls,
  extras: extraCalls,
  items: itemCalls,
  jobs: jobCalls,
  keywords: keywordCalls,
  links: linkCalls,
  live: liveCalls,
  redirects: redirectCalls,
  review: reviewCalls,
  runs: runCalls,
  site: siteCalls,
  wire: wireCalls,
};
