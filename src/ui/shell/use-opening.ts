import { useEffect, useState } from "react";

/** Openings that were on screen in this window. */
const shown = new Set<string>();

/**
 * Of which opening of a part of a screen it is, so that what another window did meanwhile is seen the next time. The first has the name under
 * which the server sent the answers with the page; to come back, be it by the browser's button, is another one.
 */
export function useOpening(sent: string): string {
  const [opening] = useState(() => (shown.has(sent) ? crypto.randomUUID() : sent));
  useEffect(() => void shown.add(sent), [sent]);
  return opening;
}
