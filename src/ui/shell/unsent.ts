/** What was said to the server and waits for what was said before it, or for its answer. */
const unsent = new Set<symbol>();

const ask = (event: BeforeUnloadEvent) => event.preventDefault();

/** Has the browser ask before its window is closed, or goes to another site, until this has been sent and answered. */
export async function untilSent<T>(sending: Promise<T>): Promise<T> {
  const own = Symbol("unsent");
  unsent.add(own);
  window.addEventListener("beforeunload", ask);
  try {
    return await sending;
  } finally {
    unsent.delete(own);
    if (unsent.size === 0) window.removeEventListener("beforeunload", ask);
  }
}
