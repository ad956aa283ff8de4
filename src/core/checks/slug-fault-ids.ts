/** The findings of a slug that it has by itself, whatever other pages and its line are: for which a page may be moved. */
export const SLUG_FAULTS = [
  "too-many-characters",
  "stop-words",
  "numbers",
  "capitals",
  "underscores",
  "non-ascii",
  "too-deep",
] as const;
export type SlugFault = (typeof SLUG_FAULTS)[number];
