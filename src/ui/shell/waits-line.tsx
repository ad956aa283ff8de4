"use client";
import { useSite } from "./site-context";
import { useWaits, waitWords } from "./waits";

/** Says on every screen what the server is at, as long as an answer that should be there at once waits for it. */
export function WaitsLine() {
  const words = waitWords(useSite().state.site, useWaits());
  return (
    <div role="status" className="pointer-events-none fixed inset-x-0 bottom-3 z-50 flex justify-center">
      {words !== null && <p className="rounded-sm bg-bar px-3 py-1.5 text-[12.5px] text-bar-text shadow">{words}</p>}
    </div>
  );
}
