import type { Api } from "./api/api";

/**
 * What answers requests, made by the server before it listens. Routes reach it through this handle and not by importing it, so
 * that the database driver and the threads stay out of their bundles.
 */
export function api(): Api {
  const made = (globalThis as { nineLinesApi?: Api }).nineLinesApi;
  if (!made) throw new Error("The server is not running; start the application with npm start");
  return made;
}

/** Makes an API the one that routes find. */
export function provideApi(made: Api): void {
  (globalThis as { nineLinesApi?: Api }).nineLinesApi = made;
}
