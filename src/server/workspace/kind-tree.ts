import { createHash } from "node:crypto";
import { type Site } from "../../core/design/design";
import { type Kind, kindOf } from "../../core/design/kinds";
import { CategoryTree } from "../../core/items/category-tree";
import { textValue } from "../../core/proof/items";
import { contentStamp, treePages } from "../../store/items";
import { type Db } from "../../store/open";

/** The categories that a kind's pages are in, as pages, at one moment. */
export interface KindTree {
  readonly tree: CategoryTree;
  /** Whether the kind's own pages are the tree. */
  readonly isOwn: boolean;
  /** Another one where some category is called otherwise or stands elsewhere. */
  readonly stamp: string;
}

interface Held {
  /** What the category pages were when they were read. */
  readonly content: string;
  readonly tree: CategoryTree;
  readonly stamp: string;
}

/** The site's trees of categories, read again only where their pages changed. */
export class SiteTrees {
  private readonly held = new Map<Kind, Held>();

  constructor(private readonly db: Db) {}

  /** The tree that a kind's pages are in: a tree's pages in their own, all others in the categories; `null` where those are no tree. */
  of(site: Site, kind: Kind): KindTree | null {
    const isOwn = kindOf(site, kind)?.isTree ?? false;
    const treeKind = isOwn ? kind : "category";
    if (!kindOf(site, treeKind)?.isTree) return null;
    const { tree, stamp } = this.read(treeKind);
    return { tree, isOwn, stamp };
  }

  private read(kind: Kind): Held {
    const content = contentStamp(this.db, kind);
    const held = this.held.get(kind);
    if (held?.content === content) return held;
    const pages = treePages(this.db, kind).map(({ id, key, ...texts }) => ({
      id,
      key,
      name: textValue(texts.name),
      category: textValue(texts.category),
      path: textValue(texts.path),
    }));
    const stamp = createHash("sha1").update(JSON.stringify(pages)).digest("base64");
    const fresh = { content, tree: held?.stamp === stamp ? held.tree : new CategoryTree(pages), stamp };
    this.held.set(kind, fresh);
    return fresh;
  }
}
