import { normalPath, normalQuery, pathParts } from "./path-form";

/** How a redirect answers: RFC 9110, 15.4, and 410 for what is gone for good (15.5.11). */
export const REDIRECT_STATUSES = [301, 302, 307, 308, 410] as const;
export type RedirectStatus = (typeof REDIRECT_STATUSES)[number];

/** An old path that leads on. */
export interface Redirect {
  /** In normal form. Of a prefix redirect the folder, with a slash at its end: all below it is taken along. */
  readonly from: string;
  /** A path of the site with query and fragment, or a whole address elsewhere; `""` where it is gone for good. Of a prefix redirect a folder. */
  readonly to: string;
  readonly status: RedirectStatus;
  readonly prefix: boolean;
}

/** What a redirect is told from all others by. */
export function redirectKey({ from, prefix }: Pick<Redirect, "from" | "prefix">): string {
  return prefix ? `${from}*` : from;
}

export function isElsewhere(target: string): boolean {
  return !target.startsWith("/");
}

const TEMPORARY: ReadonlySet<RedirectStatus> = new Set([302, 307]);
const KEEPS_METHOD: ReadonlySet<RedirectStatus> = new Set([307, 308]);

/**
 * The status of two hops in one: gone if the second is, temporary if either is; whether a request’s method is kept is what the first
 * one said.
 *
 * @example joinedStatus(308, 302) // 307
 */
export function joinedStatus(first: RedirectStatus, second: RedirectStatus): RedirectStatus {
  if (second === 410) return 410;
  const isTemporary = TEMPORARY.has(first) || TEMPORARY.has(second);
  if (KEEPS_METHOD.has(first)) return isTemporary ? 307 : 308;
  return isTemporary ? 302 : 301;
}

/** What somebody wrote of a redirect. */
export interface WrittenRedirect {
  readonly from: string;
  readonly to: string;
  /** `""` for a permanent one. */
  readonly status: string;
  /** Whether it is a prefix one, where it is said: a star stands for itself then. */
  readonly prefix?: boolean | undefined;
}

/** Why what somebody wrote is no redirect, in words. */
export class RedirectError extends Error {}

/**
 * A redirect of what somebody wrote: paths with or without a host, in any spelling, `*` at the end of both for a prefix one.
 *
 * @param isOwn whether a host is the site’s own: what leads there is a path.
 * @throws {RedirectError} that says what is wrong and what to write.
 * @example readRedirect({ from: "https://x.example/old/*", to: "/new/*", status: "" }, () => true) // { from: "/old/", to: "/new/", status: 301, prefix: true }
 */
export function readRedirect(written: WrittenRedirect, isOwn: (host: string) => boolean): Redirect {
  const status = readStatus(written.status);
  const readsStars = written.prefix === undefined;
  const from = sourceOf(written.from, readsStars);
  const prefix = written.prefix ?? from.hasStar;
  if (prefix && !from.path.endsWith("/"))
    throw new RedirectError(`“${written.from}” takes a folder along: write ${from.path}/*`);
  if (status === 410) return { from: from.path, to: "", status, prefix };
  const to = targetOf(written.to, isOwn, readsStars);
  if (to.target === "") throw new RedirectError("There is no target; what is gone for good has the status 410");
  if (readsStars && prefix !== to.hasStar)
    throw new RedirectError(
      prefix
        ? `All below ${from.path} would lead to one page, “${written.to}”; write a folder with a star, such as /new/*`
        : `“${written.to}” has a star, “${written.from}” has none; write one at the end of both`,
    );
  if (prefix && !isFolder(to.target))
    throw new RedirectError(`“${written.to}” takes what is below a folder along: it ends in /*`);
  return { from: from.path, to: to.target, status, prefix };
}

function readStatus(text: string): RedirectStatus {
  const trimmed = text.trim();
  if (trimmed === "") return 301;
  const status = REDIRECT_STATUSES.find((own) => String(own) === trimmed);
  if (status === undefined)
    throw new RedirectError(`“${trimmed}” is no status of a redirect; there are ${REDIRECT_STATUSES.join(", ")}`);
  return status;
}

/** A host of an address: the scheme and two slashes, or the two slashes alone. */
const WITH_HOST = /^(?:([a-z][a-z\d+.-]*):)?\/\/([^/?#]*)(.*)$/is;
const WITH_SCHEME = /^[a-z][a-z\d+.-]*:/i;

/** The host that a text names, in lower case; `null` for a path. @example hostOf("https://X.example/a") // "x.example" */
export function hostOf(text: string): string | null {
  const found = WITH_HOST.exec(text.trim());
  return found ? found[2]!.toLowerCase() : null;
}

function sourceOf(text: string, readsStars: boolean): { path: string; hasStar: boolean } {
  const trimmed = text.trim();
  const whole = WITH_HOST.exec(trimmed);
  const local = whole ? whole[3]! || "/" : trimmed;
  if (!local.startsWith("/"))
    throw new RedirectError(
      trimmed === "" ? "There is no old path" : `“${trimmed}” is no path; one begins with a slash, such as /old-rope`,
    );
  const { path, query } = pathParts(local);
  const hasStar = readsStars && query === "" && path.endsWith("/*");
  return { path: normalPath(hasStar ? path.slice(0, -1) : path) + normalQuery(query), hasStar };
}

function targetOf(
  text: string,
  isOwn: (host: string) => boolean,
  readsStars: boolean,
): { target: string; hasStar: boolean } {
  const trimmed = text.trim();
  if (trimmed === "") return { target: "", hasStar: false };
  const hasStar = readsStars && trimmed.endsWith("/*");
  const plain = hasStar ? trimmed.slice(0, -1) : trimmed;
  const whole = WITH_HOST.exec(plain);
  const local = whole && isOwn(whole[2]!.toLowerCase()) ? whole[3]! || "/" : plain;
  if (local.startsWith("/") && !local.startsWith("//")) {
    const { path, query, fragment } = pathParts(local);
    return { target: normalPath(path) + normalQuery(query) + normalQuery(fragment), hasStar };
  }
  return { target: elsewhere(local, text), hasStar };
}

function elsewhere(text: string, written: string): string {
  if (!WITH_HOST.test(text) && !WITH_SCHEME.test(text))
    throw new RedirectError(`“${written.trim()}” is no path and no address; a path begins with a slash`);
  try {
    const url = new URL(text.startsWith("//") ? `https:${text}` : text);
    if ((url.protocol === "https:" || url.protocol === "http:") && url.hostname !== "") return url.href;
  } catch {
    // What follows says it.
  }
  throw new RedirectError(`“${written.trim()}” is no address that a redirect can lead to; there are http and https`);
}

function isFolder(target: string): boolean {
  const { path, query, fragment } = pathParts(target);
  return query === "" && fragment === "" && path.endsWith("/");
}
