import { parentPort } from "node:worker_threads";
import { nearDuplicates } from "../core/checks/near-duplicates";
import { DONE, FAILED, type NearRequest } from "./near-thread";

parentPort!.on("message", ({ texts, answer }: NearRequest) => {
  let state = FAILED;
  try {
    answer.set(nearDuplicates(texts.length, (place) => texts[place]!), 1);
    state = DONE;
  } finally {
    Atomics.store(answer, 0, state);
    Atomics.notify(answer, 0);
  }
});
