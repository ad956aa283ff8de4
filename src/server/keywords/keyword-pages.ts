import { type Kind } from "../../core/design/kinds";
import { keywordKey, type SuggestPage, TermWeights } from "../../core/keywords/suggest";
import { BUILT_IN_NAMES } from "../../core/lines/fields";
import { Refusal } from "../../core/refusal";
import { readBody } from "../../store/items";
import { keywordListVersion } from "../../store/listed-keywords";
import { ObjectNumbers } from "../workspace/remembered";
import { settingsUsed } from "../workspace/settings-used";
import { type Workspace } from "../workspace/workspace";

/** A page in a word or two. */
export interface PageRef {
  readonly kind: Kind;
  readonly id: number;
  readonly name: string;
  readonly path: string;
}

/** Where a page is among those of its kind. */
export interface PageAt {
  readonly kind: Kind;
  readonly row: number;
}

/** All pages of the site, one after another, with what keywords are told by. A page's number is its place among them. */
export class KeywordPages {
  private readonly loadingNumbers = new ObjectNumbers();
  private weighed: { readonly key: string; readonly weights: TermWeights } | null = null;

  constructor(private readonly workspace: Workspace) {}

  /** Another one where pages, the list of keywords or the language that words are read in are others. */
  stamp(): string {
    const { workspace } = this;
    const pages = workspace.kindsWithPages().map((kind) => `${kind} ${workspace.data(kind).stamp}`);
    return [...pages, keywordListVersion(workspace.db)].join("\n");
  }

  all(): PageAt[] {
    return this.workspace
      .kindsWithPages()
      .flatMap((kind) => Array.from(this.workspace.data(kind).ids, (_, row) => ({ kind, row })));
  }

  /** @throws {Refusal} `stale` where there is no such page. */
  at(number: number): PageAt {
    let start = 0;
    for (const kind of this.workspace.kindsWithPages()) {
      const { length } = this.workspace.data(kind).ids;
      if (number < start + length) return { kind, row: number - start };
      start += length;
    }
    throw new Refusal("stale", `There is no page ${number} any more`);
  }

  refOf({ kind, row }: PageAt): PageRef {
    const data = this.workspace.data(kind);
    return { kind, id: data.ids[row]!, name: data.items.value("name", row), path: data.paths[row]! };
  }

  hasKeyword({ kind, row }: PageAt): boolean {
    return this.workspace.data(kind).items.column("keyword").codes[row] !== 0;
  }

  /** What a keyword for a page is looked for in. */
  about({ kind, row }: PageAt): SuggestPage {
    const data = this.workspace.data(kind);
    return { ...this.aboutWithoutBody({ kind, row }), body: readBody(this.workspace.db, data.ids[row]!) };
  }

  aboutWithoutBody({ kind, row }: PageAt): SuggestPage {
    const { items } = this.workspace.data(kind);
    return {
      name: items.value("name", row),
      category: items.value("category", row),
      intro: items.value("intro", row),
      attributes: this.attributes({ kind, row }),
      body: "",
    };
  }

  /** What the site says of a page beyond what every page has. */
  attributes({ kind, row }: PageAt): string[] {
    const { items, fieldNames } = this.workspace.data(kind);
    return fieldNames
      .filter((name) => !BUILT_IN_NAMES.has(name) && items.holds(name))
      .map((name) => items.value(name, row))
      .filter((value) => value !== "");
  }

  /** The keys of all keywords that pages have; a new set. */
  taken(): Set<string> {
    const keys = new Set<string>();
    for (const kind of this.workspace.kindsWithPages()) {
      const { codes, table } = this.workspace.data(kind).items.column("keyword");
      for (const code of new Set(codes))
        if (code !== 0) keys.add(keywordKey(this.workspace.words(), table.values[code]!));
    }
    return keys;
  }

  /** How much each word tells, by how many names and categories have it. */
  weights(): TermWeights {
    const { workspace } = this;
    const site = workspace.site();
    const key = workspace
      .kindsWithPages()
      .map((kind) => `${settingsUsed.items(site, kind)} ${this.loadingNumbers.of(workspace.data(kind).loading)}`)
      .join("\n");
    if (this.weighed?.key !== key) {
      const weights = new TermWeights(workspace.words());
      for (const { kind, row } of this.all()) {
        const { items } = workspace.data(kind);
        weights.count(`${items.value("name", row)} ${items.value("category", row)}`);
      }
      this.weighed = { key, weights };
    }
    return this.weighed.weights;
  }
}
