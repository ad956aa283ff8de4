import { normalAddress } from "../addresses/path-form";
import { compareText, type TextHow } from "./compare-text";
import { type PageSays } from "./extract";
import { type LiveFinding } from "./finding-words";

/** What a page was meant to say. */
export interface PageMeant {
  /** Its path. */
  readonly path: string;
  readonly title: string;
  readonly description: string;
  /** What stood there before the last run; `null` where none changed it. */
  readonly before: { readonly title: string | null; readonly description: string | null };
  /** Whether it is not to be indexed, as it is known here. */
  readonly isHidden: boolean;
  /** The canonical that it is to have, `""` for its own address. */
  readonly canonical: string;
}

/** An answer on the way to a page. */
export interface Hop {
  readonly url: string;
  readonly status: number;
}

/** What a visitor got. */
export interface PageMet {
  /** Redirects on the way, and the answer at their end. */
  readonly hops: readonly Hop[];
  /** Why there is none, in words; `null` where there is one. */
  readonly trouble: string | null;
  readonly says: PageSays | null;
  /** `X-Robots-Tag`. */
  readonly robotsHeader: string | null;
}

/** A page that was fetched, held against what was meant. */
export interface CheckedPage {
  readonly findings: readonly LiveFinding[];
  readonly title: TextHow | null;
  readonly description: TextHow | null;
}

const OF_HOW = {
  adds: "added",
  cut: "cut",
  "escaped-twice": "escaped",
  old: "old",
  other: "other",
  missing: "missing",
} as const;

/** @param bases origins under which the site’s own addresses stand. */
export function checkPage(meant: PageMeant, met: PageMet, bases: readonly string[]): CheckedPage {
  const nothing = (finding: LiveFinding): CheckedPage => ({ findings: [finding], title: null, description: null });
  const last = met.hops.at(-1);
  if (met.trouble !== null || !last) return nothing("unreachable");
  if (last.status === 404 || last.status === 410) return nothing("missing");
  if (last.status >= 400) return nothing("broken");
  const { says } = met;
  if (!says) return nothing("unreachable");
  const findings: LiveFinding[] = [];
  if (met.hops.length > 1) findings.push("moved");
  const compared = (text: "title" | "description"): TextHow => {
    const how = compareText(meant[text], says[text], meant.before[text]);
    if (how.how !== "as-meant") findings.push(`${text}-${OF_HOW[how.how]}`);
    if (says.times[text] > 1) findings.push(`${text}-twice`);
    return how;
  };
  const [title, description] = [compared("title"), compared("description")];
  const robots = `${says.robots ?? ""},${met.robotsHeader ?? ""}`;
  if (/\b(?:noindex|none)\b/i.test(robots) && !meant.isHidden) findings.push("noindex");
  if (says.canonical !== null && !isSame(says.canonical, meant, bases)) findings.push("canonical-elsewhere");
  return { findings, title, description };
}

function isSame(canonical: string, { path, canonical: own }: PageMeant, bases: readonly string[]): boolean {
  const places = bases.map((base) => new URL(normalAddress(path), base).href);
  if (own === "") return places.includes(canonical);
  return bases.some((base) => URL.canParse(own, base) && new URL(own, base).href === canonical);
}

/** What is found where a page’s old address leads. @param hops redirects on the way, and the answer at their end. */
export function checkOldAddress(path: string, hops: readonly Hop[], bases: readonly string[]): LiveFinding[] {
  const last = hops.at(-1);
  const isHere =
    last !== undefined &&
    last.status < 300 &&
    bases.some((base) => new URL(normalAddress(path), base).href === last.url);
  if (!isHere || hops.length < 2) return ["old-lost"];
  const isTemporary = hops.slice(0, -1).some(({ status }) => status !== 301 && status !== 308);
  return [...(isTemporary ? (["old-temporary"] as const) : []), ...(hops.length > 2 ? (["old-chain"] as const) : [])];
}
