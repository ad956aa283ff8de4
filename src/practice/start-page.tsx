import { type PracticeIdentity } from "./identity";
import { document } from "./theme";

/** Says what the practice site is. */
export function startPage({ name, base }: PracticeIdentity, pages: number): string {
  const head = { title: "What this site is", description: "", robots: "noindex", address: `${base}/_practice` };
  return document(
    name,
    head,
    [],
    <>
      <h1>What this site is</h1>
      <p>
        {name} does not exist. This is a site to practise on, with {pages.toLocaleString("en")} made-up pages, which
        runs on this machine alone and has a database of its own.
      </p>
      <ul>
        <li>
          <a href="/">The site</a> as visitors get it, with shelves, authors, an archive and a search
        </li>
        <li>
          <a href="/robots.txt">robots.txt</a> and <a href="/sitemap.xml">sitemaps</a>, one of which nobody looks after
        </li>
        <li>
          An interface for programs in two shapes, <code>/api/flat/pages</code> and <code>/api/nested/entries</code>:
          JSON, a bearer token (in <code>practice.token</code> of the data folder), changes as merge patches
        </li>
        <li>Redirects of two moves long ago, some of which lead in circles or nowhere</li>
      </ul>
    </>,
  );
}
