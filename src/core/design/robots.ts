/** What may be done with a page: shown in results or not, its links followed or not (the robots meta element). */
export const ROBOTS = ["index, follow", "noindex, follow", "index, nofollow", "noindex, nofollow"] as const;
export type Robots = (typeof ROBOTS)[number];

/**
 * What a site's setting means, however it is written; without one a page is indexed and its links are followed.
 *
 * @example readRobots("NOINDEX,follow") // "noindex, follow"
 * @example readRobots("none") // "noindex, nofollow"
 */
export function readRobots(value: string): Robots {
  const words = value.toLowerCase().split(/[\s,;]+/);
  const none = words.includes("none");
  const index = none || words.includes("noindex") ? "noindex" : "index";
  const follow = none || words.includes("nofollow") ? "nofollow" : "follow";
  return `${index}, ${follow}`;
}
