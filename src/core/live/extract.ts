import { type DefaultTreeAdapterTypes as Tree, html as spec, parse } from "parse5";

/** What an HTML page says of itself; `null` and empty lists for what it does not say. */
export interface PageSays {
  readonly title: string | null;
  readonly description: string | null;
  readonly h1: string | null;
  /** Whole, as it is resolved on the page. */
  readonly canonical: string | null;
  readonly robots: string | null;
  /** Of the first paragraph that says something. */
  readonly intro: string | null;
  readonly lang: string | null;
  /** How often each stands there: once is right. */
  readonly times: { readonly title: number; readonly description: number; readonly canonical: number };
}

type Element = Tree.Element;

/**
 * Reads a page as a browser reads it, broken HTML too; scripts are not run.
 *
 * @param url where it is: what its addresses are resolved against.
 */
export function extractPage(text: string, url: string): PageSays {
  const elements = [...elementsOf(parse(text))];
  const named = (tag: string) => elements.filter((own) => own.tagName === tag);
  const metas = (name: string) => named("meta").filter((own) => attribute(own, "name")?.trim().toLowerCase() === name);
  const titles = named("title");
  const descriptions = metas("description");
  const canonicals = named("link").filter((own) => /(?:^|\s)canonical(?:\s|$)/i.test(attribute(own, "rel") ?? ""));
  const base = resolved(attribute(named("base")[0], "href"), url) ?? url;
  const robots = metas("robots").map((own) => folded(attribute(own, "content") ?? ""));
  return {
    title: titles[0] ? folded(textOf(titles[0])) : null,
    description: descriptions[0] ? folded(attribute(descriptions[0], "content") ?? "") : null,
    h1: firstText(named("h1")),
    canonical: resolved(attribute(canonicals[0], "href"), base),
    robots: robots.length === 0 ? null : robots.join(", "),
    intro: firstText(named("p")),
    lang: attribute(named("html")[0], "lang")?.trim() || null,
    times: { title: titles.length, description: descriptions.length, canonical: canonicals.length },
  };
}

/** Elements of HTML in the order in which they begin; pictures in SVG have titles of their own. */
function* elementsOf(root: Tree.ParentNode): Generator<Element> {
  // A stack, and no recursion: a page may be nested however deep.
  const waiting: Tree.Node[] = [...root.childNodes].reverse();
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    if (!("tagName" in node)) continue;
    if (node.namespaceURI === (spec.NS.HTML as string)) yield node;
    const children = "content" in node ? node.content.childNodes : node.childNodes;
    for (let i = children.length - 1; i >= 0; i--) waiting.push(children[i]!);
  }
}

function textOf(element: Element): string {
  let text = "";
  const waiting: Tree.Node[] = [element];
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    if (node.nodeName === "#text") text += (node as Tree.TextNode).value;
    if ("childNodes" in node) for (let i = node.childNodes.length - 1; i >= 0; i--) waiting.push(node.childNodes[i]!);
  }
  return text;
}

function firstText(elements: readonly Element[]): string | null {
  for (const element of elements) {
    const text = folded(textOf(element));
    if (text !== "") return text;
  }
  return null;
}

function attribute(element: Element | undefined, name: string): string | undefined {
  return element?.attrs.find((own) => own.name === name)?.value;
}

function resolved(href: string | undefined, base: string): string | null {
  if (href === undefined || href.trim() === "") return null;
  return URL.canParse(href.trim(), base) ? new URL(href.trim(), base).href : null;
}

/** White space of HTML as one space, none at the ends. */
function folded(text: string): string {
  return text.replace(/[\t\n\f\r ]+/g, " ").trim();
}
