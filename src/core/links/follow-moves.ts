import { normalAddress, pathParts } from "../addresses/path-form";
import { type BodyLink, redirectedHref } from "./body-links";

/** How a link stands to a run of moves: the page that it is on, and where it leads. */
export interface MovingLink {
  readonly link: Pick<BodyLink, "href" | "path" | "isRelative">;
  /** Where its page is after the moves, `""` for no address. */
  readonly pageTo: string;
  /** Where its target is after them; `null` for one that stays. */
  readonly targetTo: string | null;
}

/**
 * What a link has to say so that it leads where it led before; `null` where it does already. A relative link of a page that moves would
 * lead elsewhere even where its target stays.
 *
 * @example followedHref({ link: { href: "knots", path: "/notes/knots", isRelative: true }, pageTo: "/guides/care", targetTo: null }) // "/notes/knots"
 */
export function followedHref({ link, pageTo, targetTo }: MovingLink): string | null {
  const { href, path, isRelative } = link;
  const target = targetTo === null ? path : normalAddress(targetTo);
  const now = isRelative ? resolvedFrom(href, pageTo) : path;
  if (pathParts(now).path === pathParts(target).path) return null;
  return redirectedHref(href, targetTo ?? pathParts(path).path);
}

function resolvedFrom(href: string, page: string): string {
  const { pathname, search } = new URL(href, `https://any.example${page || "/"}`);
  return normalAddress(pathname + search);
}
