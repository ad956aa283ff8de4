import { Worker } from "node:worker_threads";
import { NearAnswer, type NearRequest } from "./near-answer";
import { SILENT, waitForThread } from "../threads/wait-for-thread";
import { findNear, type NearFinder } from "./near-finder";

/**
 * Searches in a thread of its own, while the one that asks goes on with something else. Who asks for the result waits for it
 * without giving up its turn; where the thread died or says nothing any more, it is searched for there and then, and the next
 * search gets another thread.
 *
 * @param options `silent` after how many ms without a sign a thread is taken for dead.
 */
export function nearThread(file: string, { silent = SILENT }: { silent?: number } = {}): NearFinder {
  let worker: Worker | null = null;
  const discard = (dead: Worker) => {
    if (worker === dead) worker = null;
    void dead.terminate();
  };
  const thread = () => {
    if (worker) return worker;
    const made = new Worker(file);
    made.unref();
    // While somebody waits this thread hears nothing of it; what waits notices by the silence.
    made.on("error", () => discard(made));
    made.on("exit", () => discard(made));
    return (worker = made);
  };
  return (asked) => {
    const wantsWording = asked.wording !== null;
    const answer = NearAnswer.blank(asked.texts.length, wantsWording);
    const searching = thread();
    searching.postMessage({ asked, memory: answer.memory } satisfies NearRequest);
    const awaited = {
      isOpen: () => answer.state === "open",
      beats: () => answer.beats,
      wait: (ms: number) => answer.wait(ms),
    };
    const found = (alive: () => void) => {
      try {
        if (!waitForThread({ ...awaited, looked: alive }, silent)) discard(searching);
      } catch (error) {
        answer.settle("unwanted");
        throw error;
      }
      // Searched for here what was wrong with the texts, if anything was, is said in its own words.
      return answer.state === "there" ? answer.read(wantsWording) : findNear(asked, alive);
    };
    return { found, abandon: () => answer.settle("unwanted") };
  };
}
