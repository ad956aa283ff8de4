import { normalAddress } from "../../core/addresses/path-form";
import { type FollowedLink, LinkSet } from "../links/link-set";
import { type RedirectChange, RedirectSet } from "../redirects/redirect-set";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { canonicalsFollowing } from "./canonicals-along";
import { hashOf } from "./digest";
import { type FoundChanges } from "./found-changes";
import { type Inclusion } from "./inclusion";

/** The links that lead to pages which move, or would lead astray from them, and the canonicals that name those. */
export interface LinksOfMoves {
  readonly links: readonly FollowedLink[];
  /** On so many pages. */
  readonly pages: number;
  /** Another one where other links are to be rewritten. */
  readonly digest: string;
}

/** How many links and redirects lead to a page where it is now. */
export interface MoveCost {
  readonly links: number;
  readonly redirects: number;
}

const NO_LINKS: LinksOfMoves = { links: [], pages: 0, digest: "" };

/** What moves bring along: links that should follow them, and redirects. Worked out once for what is taken in. */
export class MovesAlong {
  private held: { readonly plan: Inclusion["plan"]; readonly version: string; readonly value: LinksOfMoves } | null =
    null;

  constructor(
    private readonly workspace: Workspace,
    private readonly links: LinkSet,
    private readonly redirects: RedirectSet,
  ) {}

  /** The links; `null` where bodies are still being read, so that not all of them are known. */
  linksOf(found: FoundChanges, { plan }: Inclusion, watch: WorkWatch = {}): LinksOfMoves | null {
    if (plan.moves.length === 0) return NO_LINKS;
    if (!this.links.isRead) return null;
    const version = `${found.stamp} ${this.links.version}`;
    if (this.held?.plan !== plan || this.held.version !== version) {
      const movesTo = new Map(plan.moves.map(({ page, to }) => [found.pages.ids[page]!, to]));
      const links = [...this.links.following(movesTo, watch), ...this.canonicalsOf(found, plan, watch)];
      const pages = new Set(links.map(({ item }) => item)).size;
      this.held = { plan, version, value: { links, pages, digest: hashOf(JSON.stringify(links)) } };
    }
    return this.held.value;
  }

  private canonicalsOf(found: FoundChanges, plan: Inclusion["plan"], watch: WorkWatch): readonly FollowedLink[] {
    const movesTo = new Map(plan.moves.flatMap(({ page, from, to }) => (from === "" ? [] : [[page, to]])));
    const { baseUrl } = this.workspace.site();
    return canonicalsFollowing(found, movesTo, this.redirects.ways(watch).pages, baseUrl);
  }

  /** What the move of a page costs, worked out when it is first asked of one; `null` while bodies are being read. */
  costs({ pages }: FoundChanges, watch: WorkWatch = {}): (page: number) => MoveCost | null {
    if (!this.links.isRead) return () => null;
    let known: { readonly linksTo: Int32Array; readonly leadingTo: ReadonlyMap<string, number> } | null = null;
    return (page) => {
      known ??= { linksTo: this.links.linksTo(watch), leadingTo: this.redirects.leadingTo(watch) };
      const redirects = known.leadingTo.get(normalAddress(pages.paths[page]!)) ?? 0;
      return { links: known.linksTo[page]!, redirects };
    };
  }

  redirectsOf({ plan }: Inclusion, watch: WorkWatch = {}): readonly RedirectChange[] {
    const moves = plan.moves.filter(({ from }) => from !== "");
    return moves.length === 0 ? [] : this.redirects.afterMoves(moves, watch);
  }
}

/** What moves of one site bring along. */
export function movesAlongOf(workspace: Workspace): MovesAlong {
  const redirects = new RedirectSet(workspace);
  return new MovesAlong(workspace, new LinkSet(workspace, redirects), redirects);
}
