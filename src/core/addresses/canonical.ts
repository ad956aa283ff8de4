import { type FieldNode } from "../lines/ast";
import { slugOf, type SlugRules } from "../slugs/slug";
import { normalAddress } from "./path-form";
import { namesOf } from "./shape";

/** The address that a page names as the one to be shown in results. */
export interface Canonical {
  /** Its path and query on the site in normal form; `null` on another site, and where it is no address. */
  readonly address: string | null;
  /** Whether it is on another site. */
  readonly isElsewhere: boolean;
  /** Whether its scheme, or `www.` before its host, is not the site's. */
  readonly isAtOdds: boolean;
}

const NO_ADDRESS: Canonical = { address: null, isElsewhere: false, isAtOdds: false };

/** Whether a text is a path from the top, or a whole address. */
export function isCanonicalForm(value: string): boolean {
  return /^(?:\/(?!\/)|https?:\/\/[^/])\S*$/i.test(value);
}

/**
 * What a field of a canonical’s line comes to: a slug, as in address lines; of categories one behind the other. An address, and the slug
 * that a page has, stay as they are.
 *
 * @example canonicalPart("Rope & twine › Waxed", categoryPath, slugRules) // "rope-and-twine/waxed"
 */
export function canonicalPart(value: string, { sources }: Pick<FieldNode, "sources">, rules: SlugRules): string {
  const names = sources.map((source) => (source.type === "name" ? source.name : ""));
  if (isCanonicalForm(value) || names.includes("slug")) return value;
  return names.includes("category.path")
    ? namesOf(value)
        .map((name) => slugOf(name, rules))
        .join("/")
    : slugOf(value, rules);
}

/**
 * Reads what a page says of its canonical. A path that does not begin at the top is taken for a slip: who reads the page would look for
 * it in the page's own folder.
 *
 * @param baseUrl the address of the site; `""` where it is not known, and every host is taken for the site's.
 * @example readCanonical("http://www.fennickdray.example/rope", "https://fennickdray.example") // { address: "/rope", isElsewhere: false, isAtOdds: true }
 */
export function readCanonical(value: string, baseUrl: string): Canonical {
  if (!isCanonicalForm(value)) return NO_ADDRESS;
  if (value.startsWith("/")) return { ...NO_ADDRESS, address: normalAddress(withoutFragment(value)) };
  const url = urlOf(value);
  if (!url) return NO_ADDRESS;
  const address = normalAddress(url.pathname + url.search);
  const base = urlOf(baseUrl);
  if (!base) return { ...NO_ADDRESS, address };
  if (bareHost(url) !== bareHost(base)) return { ...NO_ADDRESS, isElsewhere: true };
  return { address, isElsewhere: false, isAtOdds: url.protocol !== base.protocol || url.host !== base.host };
}

/**
 * A page's canonical after the page moved: where it was the page's own address as a path or in full, it still is. Anything else stays.
 *
 * @example movedCanonical("/rope", { from: "/rope", to: "/ropes" }, "") // "/ropes"
 */
export function movedCanonical(
  value: string,
  { from, to }: { readonly from: string; readonly to: string },
  baseUrl: string,
): string {
  const base = baseUrl.replace(/\/+$/, "");
  if (value === from) return to;
  return base !== "" && value === base + from ? base + to : value;
}

/**
 * A canonical that names a page which moved, with where the page is now, in the form in which it is written.
 *
 * @example followedCanonical("http://x.example/rope#a", "/ropes") // "http://x.example/ropes"
 */
export function followedCanonical(value: string, to: string): string {
  return value.startsWith("/") ? to : new URL(value).origin + to;
}

/** Whether a page's canonical is its own address, at the site's scheme and host. */
export function isOwnCanonical(value: string, path: string, baseUrl: string): boolean {
  if (value === "") return true;
  const { address, isAtOdds } = readCanonical(value, baseUrl);
  return address !== null && !isAtOdds && path !== "" && address === normalAddress(path);
}

function withoutFragment(value: string): string {
  const at = value.indexOf("#");
  return at < 0 ? value : value.slice(0, at);
}

function urlOf(text: string): URL | null {
  return URL.canParse(text) ? new URL(text) : null;
}

function bareHost({ host }: URL): string {
  return host.replace(/^www\./, "");
}
