import type { Backend } from "./backend";

/**
 * The backend that the server made before it listens. Routes reach it through this handle and not by importing it, so
 * that the database driver and the worker threads stay out of their bundles.
 */
export function backend(): Backend {
  const made = (globalThis as { nineLinesBackend?: Backend }).nineLinesBackend;
  if (!made) throw new Error("The backend is not running; start the application with npm start");
  return made;
}
