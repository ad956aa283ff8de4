import { parentPort } from "node:worker_threads";
import { wordingBits } from "../../core/checks/check-text";
import { nearDuplicates } from "../../core/checks/near-duplicates";
import { DONE, FAILED, type NearRequest } from "./near-thread";

parentPort!.on("message", ({ texts, wording, answer }: NearRequest) => {
  let state = FAILED;
  try {
    answer.set(
      nearDuplicates(texts.length, (place) => texts[place]!),
      1,
    );
    if (wording)
      for (let place = 0; place < texts.length; place++)
        answer[texts.length + 1 + place] = wordingBits(wording.subject, texts[place]!, wording.year);
    state = DONE;
  } finally {
    Atomics.store(answer, 0, state);
    Atomics.notify(answer, 0);
  }
});
