import { isOwnCanonical, readCanonical } from "../../core/addresses/canonical";
import { isElsewhere } from "../../core/addresses/redirect";
import { canonicalBits, type NamedByCanonical } from "../../core/checks/check-page";
import { type Side } from "../../core/checks/findings";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { type Kind } from "../../core/design/kinds";
import { readRobots } from "../../core/design/robots";
import { pageAt, withOtherEnding } from "../redirects/page-at";
import { type RedirectSet } from "../redirects/redirect-set";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";

/** What pages of a kind say of their canonical, by row, and which of them may not be indexed. */
interface SaidByKind {
  readonly kind: Kind;
  /** The number of its first page. */
  readonly first: number;
  readonly paths: readonly string[];
  readonly canonicals: readonly string[];
  readonly isUnindexed: (row: number) => boolean;
}

/** Judges the canonicals of a site: where they lead, and what is there. */
export class CanonicalChecks {
  constructor(
    private readonly workspace: Workspace,
    private readonly redirects: RedirectSet,
  ) {}

  /** The bits of what is found of each page’s canonical on one side, by kind; empty where no page has one. */
  find(designs: Designs, side: Side, watch: WorkWatch = {}): ReadonlyMap<Kind, Int32Array> {
    const kinds = this.workspace.kindsWithPages(watch);
    const { startOf } = this.workspace.pages(watch);
    const said = kinds.map((kind): SaidByKind => ({
      kind,
      first: startOf.get(kind)!,
      paths: this.workspace.data(kind).paths,
      canonicals: this.canonicalsOf(kind, designs, side, watch),
      isUnindexed: this.unindexed(kind, designs, side),
    }));
    // Most sites have none: their redirects need not be folded for it.
    if (said.every(({ canonicals }) => canonicals.every((own) => own === ""))) return new Map();
    const judge = this.judge(said, watch);
    const base = this.workspace.site().baseUrl.replace(/\/+$/, "");
    // On most sites nearly all name themselves: those need not be read as addresses.
    const isPlainOwn = (canonical: string, path: string) =>
      canonical === "" || (path !== "" && (canonical === path || canonical === base + path));
    return new Map(
      said.map(({ kind, paths, canonicals }) => [
        kind,
        Int32Array.from(canonicals, (canonical, row) =>
          isPlainOwn(canonical, paths[row]!) ? 0 : judge(canonical, paths[row]!),
        ),
      ]),
    );
  }

  /** What a kind’s pages say; where nothing is drafted what the site has. */
  private canonicalsOf(kind: Kind, designs: Designs, side: Side, watch: WorkWatch): readonly string[] {
    const live = this.workspace.data(kind).pageExtra("canonical");
    if (side === "live" || !this.workspace.site().extras.canonical) return live;
    const { proof } = this.workspace.extraProof(kind, "canonical", designs[kind] ?? EMPTY_DESIGN, watch);
    return live.map((own, row) => (proof.lengths[row] === 0 ? own : proof.textOf(row)));
  }

  private unindexed(kind: Kind, designs: Designs, side: Side): (row: number) => boolean {
    if (side === "draft") {
      const robots = this.workspace.robots(kind, designs[kind] ?? EMPTY_DESIGN);
      return (row) => robots(row).value.startsWith("noindex");
    }
    const { codes, table } = this.workspace.data(kind).items.column("robots");
    const live = table.values.map((value) => readRobots(value).startsWith("noindex"));
    return (row) => live[codes[row]!]!;
  }

  private judge(said: readonly SaidByKind[], watch: WorkWatch): (canonical: string, path: string) => number {
    const { baseUrl } = this.workspace.site();
    const { lookup, pages } = this.redirects.ways(watch);
    const saidBy = (page: number) => said.findLast(({ first }) => first <= page)!;
    const named = (canonical: string, path: string): NamedByCanonical => {
      const { address, isElsewhere: isOnOtherSite, isAtOdds } = readCanonical(canonical, baseUrl);
      const plain = { isAtOdds, isUnindexed: false, namesAnother: false };
      if (address === null) return { ...plain, leads: isOnOtherSite ? "own" : "nowhere" };
      const page = pageAt(pages, address);
      if (page === undefined) {
        const { to } = lookup.resolve(address);
        const leadsOn = to !== null && to !== "" && (isElsewhere(to) || pageAt(pages, to) !== undefined);
        return { ...plain, leads: leadsOn || withOtherEnding(pages, address) ? "redirect" : "nowhere" };
      }
      const { first, paths, canonicals, isUnindexed } = saidBy(page);
      const row = page - first;
      if (paths[row] === path) return { ...plain, leads: "own" };
      const namesAnother = !isOwnCanonical(canonicals[row]!, paths[row]!, baseUrl);
      return { leads: "page", isAtOdds, isUnindexed: isUnindexed(row), namesAnother };
    };
    return (canonical, path) => canonicalBits(named(canonical, path));
  }
}
