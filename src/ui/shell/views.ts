/** The views that the bar and the palette go to, each with its key. */
export const VIEWS = [
  { path: "/", label: "Board", key: "1" },
  { path: "/bench", label: "Bench", key: "2" },
  { path: "/pages", label: "Pages", key: "3" },
  { path: "/keywords", label: "Keywords", key: "4" },
  { path: "/review", label: "Review", key: "5" },
  { path: "/runs", label: "Runs", key: "6" },
  { path: "/settings", label: "Settings", key: "7" },
  { path: "/import", label: "Import", key: "8" },
] as const;
