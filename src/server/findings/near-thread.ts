import { Worker } from "node:worker_threads";
import { type NearFinder, type WordingOf } from "./near-finder";

/** What the thread is asked: texts, and shared memory for the answer: a flag that it is there, a number for each text, and bits of wording for each that they were asked for of. */
export interface NearRequest {
  readonly texts: readonly string[];
  readonly wording: WordingOf | null;
  readonly answer: Int32Array;
}

/** Set in an answer's flag: done, or given up. */
export const DONE = 1;
export const FAILED = 2;

/**
 * Searches in a thread of its own, while the one that asks goes on with something else. Who asks for the result waits for
 * it without giving up its turn: what is found belongs to one moment of the set.
 */
export function nearThread(file: string): NearFinder {
  const worker = new Worker(file);
  worker.unref();
  return (texts, wording) => {
    const answer = new Int32Array(new SharedArrayBuffer(4 * (texts.length * (wording ? 2 : 1) + 1)));
    worker.postMessage({ texts, wording, answer } satisfies NearRequest);
    const wait = () => {
      while (Atomics.load(answer, 0) === 0) Atomics.wait(answer, 0, 0, 1000);
      if (answer[0] === FAILED) throw new Error("The search for texts that read nearly the same failed; try again");
    };
    return {
      partners() {
        wait();
        return answer.subarray(1, texts.length + 1);
      },
      wording() {
        wait();
        return wording && answer.subarray(texts.length + 1);
      },
    };
  };
}
