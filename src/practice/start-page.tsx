import { type SwitchedFault } from "./fault-switches";
import { type PracticeIdentity } from "./identity";
import { document } from "./theme";

const PLACES = [
  { at: "interface", heading: "At the interface" },
  { at: "pages", heading: "With what visitors get" },
] as const;

/** Says what the practice site is, and switches what goes wrong with it. */
export function startPage({ name, base }: PracticeIdentity, pages: number, faults: readonly SwitchedFault[]): string {
  const head = { title: "What this site is", description: "", robots: "noindex", address: `${base}/_practice` };
  return document(
    name,
    head,
    [],
    <>
      <h1>What this site is</h1>
      <p>
        {name} does not exist. This is a site to practise on, with {pages.toLocaleString("en")} made-up pages, which
        runs on this machine alone and has a database of its own. Its pages change when its interface changes them.
      </p>
      <ul>
        <li>
          <a href="/">The site</a> as visitors get it, with shelves, authors, an archive and a search
        </li>
        <li>
          <a href="/robots.txt">robots.txt</a> and <a href="/sitemap.xml">sitemaps</a>, one of which nobody looks after
        </li>
        <li>
          An interface for programs in two shapes, <code>/api/flat/pages</code> and <code>/api/nested/entries</code>,
          described in <a href="/api/openapi.json">openapi.json</a>; programs are let in by the bearer token in{" "}
          <code>practice.token</code> of the data folder
        </li>
        <li>
          A third shape, <code>/api/third/documents</code>, which is described nowhere: to try whether you can connect
          it by looking at what it answers (<code>collection</code>, <code>start</code>, <code>take</code>; the token as{" "}
          <code>x-key</code>)
        </li>
        <li>Redirects of two moves long ago, some of which lead in circles or nowhere</li>
      </ul>
      <h2 id="faults">What goes wrong</h2>
      <p>
        Nothing, until it is switched on here, or by a program that puts <code>{'{"errors": 20}'}</code> to{" "}
        <code>/_practice/faults</code>: of a hundred requests so many.
      </p>
      {PLACES.map(({ at, heading }) => (
        <section key={at}>
          <h3>{heading}</h3>
          <ul>{faults.filter((fault) => fault.at === at).map((fault) => Switch(fault))}</ul>
        </section>
      ))}
    </>,
  );
}

function Switch({ name, words, share, usually }: SwitchedFault) {
  const isOn = share > 0;
  return (
    <li key={name}>
      <form method="post" action="/_practice/faults">
        <input type="hidden" name="name" value={name} />
        <input type="hidden" name="share" value={isOn ? 0 : usually} />
        {isOn ? <strong>{words}</strong> : words}{" "}
        <button aria-label={`Switch ${isOn ? "off" : "on"}: ${words}`}>
          {isOn ? `on, ${share} %: switch off` : "switch on"}
        </button>
      </form>
    </li>
  );
}
