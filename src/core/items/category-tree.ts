/** A page that others can be in, as far as its place goes. */
export interface TreePage {
  /** Tells it from all other pages. */
  readonly id: number;
  /** The site's own id. */
  readonly key: string | null;
  readonly name: string;
  /** What the page says of the category it is in: by name, or by id. */
  readonly category: string;
  /** The names of the categories from the top, with {@link PATH_SEPARATOR} between; its own name may be the last of them. */
  readonly path: string;
}

/** Where a page is: the name of its category, and the names from the top down to it. */
export interface Place {
  readonly category: string;
  readonly path: string;
}

export const PATH_SEPARATOR = " › ";

interface Node extends TreePage {
  readonly segments: readonly string[];
}

/** Names deeper than this are not followed up. */
const MOST_DEEP = 50;

/**
 * Categories as pages stand below one another. A page’s category is found by the names from the top where it tells them, by its id, or
 * by its name where only one page is called so.
 */
export class CategoryTree {
  private readonly byId = new Map<number, Node>();
  private readonly byKey = new Map<string, Node>();
  /** `null` where several pages are called so. */
  private readonly byName = new Map<string, Node | null>();
  /** By the names that pages tell from the top themselves. */
  private readonly byToldPath = new Map<string, Node>();
  private readonly byPath = new Map<string, Node>();
  private readonly trails = new Map<Node, readonly string[]>();

  constructor(pages: Iterable<TreePage>) {
    const nodes: Node[] = [];
    for (const page of pages) {
      if (page.name === "") continue;
      const node = { ...page, segments: page.path.split(PATH_SEPARATOR).filter(Boolean) };
      nodes.push(node);
      this.byId.set(page.id, node);
      if (page.key !== null) this.byKey.set(page.key, node);
      this.byName.set(folded(page.name), this.byName.has(folded(page.name)) ? null : node);
    }
    const put = (to: Map<string, Node>, names: readonly string[], node: Node) => {
      const path = folded(names.join(PATH_SEPARATOR));
      if (!to.has(path)) to.set(path, node);
    };
    for (const node of nodes) put(this.byToldPath, ownSegments(node), node);
    for (const node of nodes) this.trails.set(node, this.trailOf(node));
    for (const [path, node] of this.byToldPath) this.byPath.set(path, node);
    for (const [node, trail] of this.trails) put(this.byPath, trail, node);
  }

  get isEmpty(): boolean {
    return this.byName.size === 0;
  }

  /** Where a page is that says so; `null` where there is no such category, and what it says stands. */
  place({ category, path }: Place): Place | null {
    const node = this.find(category, path);
    return node && { category: node.name, path: this.trails.get(node)!.join(PATH_SEPARATOR) };
  }

  /** Where a page of the tree itself is: it stands at the end of its own names, and is in the category above. */
  placeOf(id: number): Place | null {
    const node = this.byId.get(id);
    if (!node) return null;
    const trail = this.trails.get(node)!;
    const isOwn = folded(node.category) === folded(node.name);
    const category = isOwn ? node.category : (trail.at(-2) ?? node.category);
    return { category, path: trail.join(PATH_SEPARATOR) };
  }

  private find(category: string, path: string): Node | null {
    if (path !== "") {
      const there = this.byPath.get(folded(path));
      if (there) return there;
    }
    if (category === "") return null;
    return this.byKey.get(category) ?? this.byName.get(folded(category)) ?? null;
  }

  /** The names from the top down to a page. Where pages stand below one another in a ring, it begins with the one that would come again. */
  private trailOf(node: Node): readonly string[] {
    const below: string[] = [];
    const seen = new Set<Node>();
    for (let at = node; ;) {
      seen.add(at);
      const above = this.above(at);
      if (!above || seen.has(above) || seen.size >= MOST_DEEP) return [...ownSegments(at), ...below.reverse()];
      below.push(at.name);
      at = above;
    }
  }

  private above(node: Node): Node | null {
    const parents = ownSegments(node).slice(0, -1);
    if (parents.length > 0) {
      const told =
        this.byToldPath.get(folded(parents.join(PATH_SEPARATOR))) ?? this.byName.get(folded(parents.at(-1)!));
      return told ?? null;
    }
    if (node.category === "" || folded(node.category) === folded(node.name)) return null;
    return this.byKey.get(node.category) ?? this.byName.get(folded(node.category)) ?? null;
  }
}

/** The names that a page tells from the top, its own the last of them. */
function ownSegments({ name, segments }: Node): readonly string[] {
  return segments.length > 0 && folded(segments.at(-1)!) === folded(name) ? segments : [...segments, name];
}

/** Names are the same whatever their case and spaces. */
function folded(text: string): string {
  return text.trim().normalize("NFC").toLowerCase();
}
