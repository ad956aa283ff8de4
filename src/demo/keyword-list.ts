import { DEPARTMENTS, POST_SUBJECTS } from "./vocabulary";

/** The keywords that the demo site wants to be found for, with how often each is searched for a month: shelves, subjects of posts, and some that no page has. */
export function demoKeywords(): { keyword: string; volume: number; columns: Record<string, string> }[] {
  const wanted: { keyword: string; columns: Record<string, string> }[] = [];
  for (const { name, shelves } of DEPARTMENTS)
    for (const [, many] of shelves) wanted.push({ keyword: many, columns: { intent: "buy", department: name } });
  for (const subject of POST_SUBJECTS)
    wanted.push({ keyword: subject.replace(/’/g, "'").toLowerCase(), columns: { intent: "know" } });
  for (const keyword of [
    "chandlery near me",
    "rope splicing course",
    "boat jumble",
    "mooring fees",
    "rigging quote",
    "sail repair by post",
    "ships' chandlers",
    "harbour master hours",
  ])
    wanted.push({ keyword, columns: { intent: "go" } });
  // Volumes as they are: a few large, a long tail of small ones.
  return wanted.map((own, i) => ({
    ...own,
    volume: Math.round(18_000 / (1 + ((i * 37) % wanted.length)) / 10) * 10 + 10,
  }));
}
