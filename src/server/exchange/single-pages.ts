import { type Site } from "../../core/design/design";
import { type Kind, kindsOf } from "../../core/design/kinds";
import { type ItemInput } from "../../store/items";
import { type Db } from "../../store/open";

interface KnownPage {
  readonly key: string | null;
  readonly path: string | null;
  readonly name: string;
}

/** Refuses a second page of a kind that has one at most. Pages are as they were before the file. */
export class SinglePages {
  /** What the only page of a kind is called, by kind. */
  private readonly words: ReadonlyMap<Kind, string>;
  private readonly lines = new Map<Kind, number>();
  private readonly present;

  constructor(db: Db, site: Pick<Site, "kinds">) {
    this.words = new Map(kindsOf(site).flatMap(({ id, one, isSingle }) => (isSingle ? [[id, one] as const] : [])));
    this.present = db.prepare(
      "SELECT key, path, name FROM items WHERE kind = @kind ORDER BY (key = @key OR path = @path) IS TRUE DESC LIMIT 1",
    );
  }

  reasonToRefuse({ kind, key, path }: ItemInput, line: number): string | null {
    const word = this.words.get(kind);
    if (word === undefined) return null;
    const there = this.present.get({ kind, key, path }) as KnownPage | undefined;
    const isSame = there && ((key !== null && there.key === key) || (path !== null && there.path === path));
    // A site may have had several before that was said of the kind: a row about one of them is about no new page.
    if (isSame) return null;
    const before = this.lines.get(kind);
    if (before !== undefined)
      return `Line ${before} is the site’s ${word} already; a site has one, unless its settings, Kinds of page, say otherwise`;
    if (there)
      return `The site’s ${word} is ${there.path ?? `“${there.name}”`} already; a site has one, unless its settings, Kinds of page, say otherwise`;
    this.lines.set(kind, line);
    return null;
  }
}
