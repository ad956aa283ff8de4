import { formatDistanceToNow } from "date-fns";

/** @example count(12480) // "12,480" */
export function count(value: number): string {
  // Of whole numbers nothing more is needed, and the browser's own formats take their time to be made.
  return String(value).replace(/\B(?=(?:\d{3})+$)/g, ",");
}

/** @example counted(1, "change", "changes") // "1 change" */
export function counted(value: number, one: string, many: string): string {
  return `${count(value)} ${value === 1 ? one : many}`;
}

let lists: Intl.ListFormat | undefined;

/** @example listed(["posts", "tags", "pages"]) // "posts, tags and pages" */
export function listed(words: readonly string[]): string {
  lists ??= new Intl.ListFormat("en-GB", { type: "conjunction" });
  return lists.format(words);
}

/** @example ago(new Date().toISOString()) // "less than a minute ago" */
export function ago(iso: string): string {
  return formatDistanceToNow(new Date(iso), { addSuffix: true });
}

let dates: Intl.DateTimeFormat | undefined;

/** @example when("2026-11-24T10:05:00Z") // "24 Nov 2026, 10:05" */
export function when(iso: string): string {
  dates ??= new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" });
  return dates.format(new Date(iso));
}

/** The file that an address leads to, short enough for a line. @example fileName("/i/notes/12.jpg?v=2") // "12.jpg" */
export function fileName(address: string): string {
  if (address.startsWith("data:")) return "in the page itself";
  const path = address.replace(/[?#].*$/s, "");
  return path.slice(path.lastIndexOf("/") + 1).slice(0, 60) || "without an address";
}
