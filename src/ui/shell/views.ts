/** The views that the bar and the palette go to, each with its key, and with how many rows of a small screen its actions take in the bar. */
export const VIEWS = [
  { path: "/", label: "Board", key: "1", barRows: 2 },
  { path: "/bench", label: "Bench", key: "2", barRows: 2 },
  { path: "/pages", label: "Pages", key: "3", barRows: 1 },
  { path: "/keywords", label: "Keywords", key: "4", barRows: 1 },
  { path: "/review", label: "Review", key: "5", barRows: 1 },
  { path: "/runs", label: "Runs", key: "6", barRows: 0 },
  { path: "/addresses", label: "Addresses", key: "9", barRows: 0 },
  { path: "/settings", label: "Settings", key: "7", barRows: 1 },
  { path: "/import", label: "Import", key: "8", barRows: 1 },
] as const;

/** Screens that are gone to from a view and have actions in the bar, too. */
export const OTHER_BARS = [
  { path: "/compare", barRows: 1 },
  { path: "/connection", barRows: 1 },
  { path: "/lines", barRows: 1 },
  { path: "/live", barRows: 1 },
] as const;
