import { compactRedirects } from "../core/addresses/compact-redirects";
import { foldRedirects } from "../core/addresses/fold-redirects";
import { type Redirect } from "../core/addresses/redirect";
import { RedirectLookup } from "../core/addresses/redirect-lookup";
import { linksOf } from "../core/links/body-links";
import { BenchAddresses } from "../server/bench/bench-addresses";
import { type Workspace } from "../server/workspace/workspace";
import { type Figure, median, residentMb } from "./measure";

const LINES = ["/shop/{category.path}/{slug}", "/{category}/{slug}", "/goods/{category.path}/{slug}.html", "/{slug}"];

/** The addresses of a whole set, as they are proved while an address line is typed. */
export function addressFigure(workspace: Workspace, bareMs: number): Figure {
  const pages = workspace.data("product").ids.length;
  const addresses = new BenchAddresses(workspace);
  const ms = median(7, (round) => {
    const address = LINES[(round + LINES.length) % LINES.length]!;
    addresses.prove("product", { base: {}, rules: [], address, moves: "all" });
  });
  return {
    name: `addresses of ${pages.toLocaleString("en")} products after a keystroke in the address line`,
    ms,
    baseline: "concatenate and sum widths",
    baselineMs: bareMs,
    bound: "at most 150 ms",
    holds: ms <= 150,
  };
}

/** Two earlier moves of a large site: half of the redirects lead to the other half, and that to pages. */
function manyRedirects(count: number): { given: Redirect[]; pages: Set<string> } {
  const given: Redirect[] = [];
  const pages = new Set<string>();
  for (let i = 0; i < count / 2; i++) {
    const name = `${i % 5000}/cleat-with-a-name-${i}`;
    const at = i % 50 === 0 ? `/odd/${name}` : `/new/${name}`;
    given.push({ from: `/old/${name}`, to: `/mid/${name}`, status: 301, prefix: false });
    given.push({ from: `/mid/${name}`, to: at, status: 301, prefix: false });
    pages.add(at);
  }
  return { given, pages };
}

function timed<T>(work: () => T): { readonly ms: number; readonly made: T } {
  const start = performance.now();
  const made = work();
  return { ms: performance.now() - start, made };
}

/** A large set of redirects: folded, compacted and proven, looked up. */
export function redirectFigures(count: number): Figure[] {
  const { given, pages } = manyRedirects(count);
  const many = `${count.toLocaleString("en")} redirects`;
  const bare = timed(() => {
    const map = new Map(given.map(({ from, to }) => [from, to]));
    let sum = 0;
    for (const { from } of given) sum += map.get(from)!.length;
    return sum;
  });
  const baseline = { baseline: "a map of them, each looked up", baselineMs: bare.ms };
  const folded = timed(() => foldRedirects(given, pages));
  const compact = timed(() => compactRedirects(folded.made.redirects, pages));
  const lookup = new RedirectLookup(folded.made.redirects, pages);
  const looked = timed(() => given.reduce((sum, { from }) => sum + lookup.resolve(from).hops.length, 0));
  const each = (looked.ms * 1000) / count;
  const mb = residentMb();
  return [
    { name: `${many} folded`, ms: folded.ms, ...baseline, bound: "at most 10,000 ms", holds: folded.ms <= 10_000 },
    {
      name: `the same compacted to ${compact.made.redirects.length.toLocaleString("en")} rules and proven`,
      ms: compact.ms,
      ...baseline,
      bound: "at most 60,000 ms",
      holds: compact.ms <= 60_000,
    },
    { name: "the same looked up", ms: looked.ms, ...baseline, bound: "at most 20 µs each", holds: each <= 20 },
    {
      name: "memory with all of them",
      ms: mb,
      unit: "MB",
      baseline: "",
      baselineMs: 0,
      bound: "under 2,000 MB",
      holds: mb < 2000,
    },
  ];
}

/** Links of many bodies, read one after another. */
export function linkFigure(count: number): Figure {
  const paragraph =
    '<p>Splicing needs patience, a fid and <a href="/rope/twine-{n}">waxed twine</a> of the right size.</p>\n';
  const body = Array.from({ length: 50 }, (_, n) => paragraph.replace("{n}", String(n))).join("");
  const bodies = Array.from({ length: count }, (_, i) => body.replaceAll("twine-", `twine-${i}-`));
  const bare = timed(() => bodies.reduce((sum, own) => sum + (own.match(/<a[^>]*href="([^"]*)"/g)?.length ?? 0), 0));
  const read = timed(() =>
    bodies.reduce((sum, own) => sum + linksOf(own, "https://fennickdray.example/notes/a").length, 0),
  );
  const share = 100_000 / count;
  return {
    name: `links of ${count.toLocaleString("en")} bodies of ${Math.round(body.length / 1000)} KB`,
    ms: read.ms,
    baseline: "a regular expression over each",
    baselineMs: bare.ms,
    bound: "100,000 in at most 60 s",
    holds: read.ms * share <= 60_000,
  };
}
