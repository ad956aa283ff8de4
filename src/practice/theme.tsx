import { type ReactNode } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { type PracticePage } from "./practice-store";

/** What the head of a page says. */
export interface Head {
  readonly title: string;
  readonly description: string;
  /** The page’s own address. */
  readonly address: string;
  /** Where it is another one. */
  readonly canonical?: string | undefined;
  /** `""` for no robots `meta`. */
  readonly robots: string;
  readonly type?: "website" | "article" | "product";
}

/** A step of the way to a page. */
export interface Crumb {
  readonly label: string;
  /** `null` where no page is. */
  readonly path: string | null;
}

const STYLE = `
body { margin: 0; font: 16px/1.5 Georgia, serif; color: #222; background: #fff; }
header, main, footer { max-width: 46rem; margin: 0 auto; padding: 1rem; }
header, footer { border-color: #ccc; border-style: solid; border-width: 0; }
header { border-bottom-width: 1px; } footer { border-top-width: 1px; }
nav a { margin-right: 1rem; } img { max-width: 100%; }
`;

/** A whole page of the site. */
export function document(site: string, head: Head, crumbs: readonly Crumb[], content: ReactNode): string {
  const html = renderToStaticMarkup(
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>{head.title}</title>
        {head.description !== "" && <meta name="description" content={head.description} />}
        {head.robots !== "" && <meta name="robots" content={head.robots} />}
        <link rel="canonical" href={head.canonical ?? head.address} />
        <meta property="og:title" content={head.title} />
        <meta property="og:description" content={head.description} />
        <meta property="og:url" content={head.address} />
        <meta property="og:type" content={head.type ?? "website"} />
        <meta property="og:site_name" content={site} />
        <style>{STYLE}</style>
      </head>
      <body>
        <header>
          <a href="/">{site}</a>
          <nav aria-label="Main">
            <a href="/shelves">Shelves</a>
            <a href="/authors">Authors</a>
            <a href="/archive">Archive</a>
            <a href="/search">Search</a>
          </nav>
        </header>
        <main>
          {crumbs.length > 0 && (
            <nav aria-label="Breadcrumb">
              {crumbs.map(({ label, path }, i) => (
                <span key={label}>
                  {i > 0 && " › "}
                  {path === null ? label : <a href={path}>{label}</a>}
                </span>
              ))}
            </nav>
          )}
          {content}
        </main>
        <footer>
          <p>
            {site} is made up: a practice site, on this machine alone. <a href="/_practice">What it is</a>
          </p>
        </footer>
      </body>
    </html>,
  );
  return `<!doctype html>\n${html}\n`;
}

/** What a page says below its head. */
export function PageContent({ page }: { page: PracticePage }) {
  const facts = Object.entries(JSON.parse(page.attributes) as Record<string, string>);
  return (
    <article>
      <h1>{page.name}</h1>
      {page.author !== "" && (
        <p>
          By <a href={`/authors/${encodeURIComponent(page.author)}`}>{page.author}</a>
          {page.published !== "" && (
            <>
              {" on "}
              <time dateTime={page.published}>{page.published}</time>
            </>
          )}
        </p>
      )}
      {page.intro !== "" && <p>{page.intro}</p>}
      {page.body !== "" && <div dangerouslySetInnerHTML={{ __html: page.body }} />}
      {page.price !== "" && <p>Price: {page.price}</p>}
      {facts.length > 0 && (
        <dl>
          {facts.map(([name, value]) => (
            <div key={name}>
              <dt>{name.replaceAll("_", " ")}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </article>
  );
}

/** Pages one below another, and the way to those that follow. */
export function PageList({
  heading,
  pages,
  older,
}: {
  /** `null` below a page that has one. */
  heading: string | null;
  pages: readonly Pick<PracticePage, "path" | "name">[];
  /** Where the list goes on, `null` where it ends. */
  older: string | null;
}) {
  return (
    <>
      {heading !== null && <h1>{heading}</h1>}
      {pages.length === 0 ? (
        <p>There is nothing here.</p>
      ) : (
        <ul>
          {pages.map(({ path, name }) => (
            <li key={path}>
              <a href={path}>{name}</a>
            </li>
          ))}
        </ul>
      )}
      {older !== null && (
        <p>
          <a href={older} rel="next">
            More
          </a>
        </p>
      )}
    </>
  );
}
