import { parentPort } from "node:worker_threads";
import { NearAnswer, type NearRequest } from "./near-answer";
import { findNear } from "./near-finder";

/** Ends a search that nobody waits for any more. */
class Unwanted extends Error {}

parentPort!.on("message", ({ asked, memory }: NearRequest) => {
  const answer = new NearAnswer(memory, asked.texts.length);
  try {
    const alive = () => {
      answer.beat();
      if (answer.state === "unwanted") throw new Unwanted();
    };
    answer.put(findNear(asked, alive));
  } catch {
    // Who waits searches itself then, and hears what is wrong.
    answer.settle("failed");
  }
});
