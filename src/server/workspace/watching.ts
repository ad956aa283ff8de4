import { type Call } from "../threads/call";
import { type WorkWatch } from "./watch";

/** Work that takes longer than so many ms says how far it is, and then once in so many. */
const FIRST_PROGRESS = 300;
const NEXT_PROGRESS = 150;

/** A call's watch: long steps are told to whoever waits, and end when nobody does. */
export function watching(call: Call): WorkWatch {
  let next = performance.now() + FIRST_PROGRESS;
  return {
    cancelled: call.cancelled,
    progress: (value) => {
      const now = performance.now();
      if (now < next) return;
      next = now + NEXT_PROGRESS;
      call.progress(value);
    },
  };
}
