import { textFindings, type FoundText } from "../../core/checks/check-text";
import { findingBit, type FindingId, findingIds, type Side, type Subject } from "../../core/checks/findings";
import { switchedOn } from "../../core/checks/settings";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { type Kind, type TextName } from "../../core/design/kinds";
import { TextGroups } from "../../core/proof/groups";
import { Cancelled } from "../../core/proof/prove-set";
import { type TextProof } from "../../core/proof/text-proof";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { RedirectSet } from "../redirects/redirect-set";
import { CanonicalChecks } from "./canonical-checks";
import { type CheckedText } from "./checked-text";
import { type NearFinder, nearHere } from "./near-finder";
import { NearSearches, type Search, type SearchedText } from "./near-searches";
import { PageChecks } from "./page-checks";
import { type KindSide, siteContext, type SiteContext } from "./site-context";
import { ofEachText, TextChecks } from "./text-checks";

/** A kind's findings, column by column: a row's are the bits of a number ({@link findingBit}), those switched off left out. */
export type KindFindings = Readonly<Record<Subject, Int32Array>>;

/** Finds what is wrong over a whole site, for what it has and for what the drafts make of it. */
export class SiteFindings {
  private readonly texts = new TextChecks();
  private readonly near: NearSearches;
  private readonly pages: PageChecks;
  private readonly canonicals: CanonicalChecks;

  constructor(
    private readonly workspace: Workspace,
    /** The present year. */
    private readonly year: () => number,
    nearFinder: NearFinder = nearHere,
    redirects: RedirectSet = new RedirectSet(workspace),
  ) {
    this.near = new NearSearches(nearFinder);
    this.pages = new PageChecks(workspace);
    this.canonicals = new CanonicalChecks(workspace, redirects);
  }

  /** Every kind's findings on one side. */
  find(designs: Designs, side: Side, watch: WorkWatch = {}): ReadonlyMap<Kind, KindFindings> {
    const context = siteContext(this.workspace, this.year());
    const sides = this.workspace.kindsWithPages(watch).map((kind) => this.sideOf(kind, designs, side, watch));
    const canonicals = this.canonicals.find(designs, side, watch);
    const isDuplicate = ofEachText((text) => compareAll(sides.map(({ proofs }) => proofs[text])));
    // What reads nearly the same may be searched for in another thread while this one checks the texts one by one.
    const searches = sides.map((own) => ({
      title: this.search(own, "title", context),
      description: this.search(own, "description", context),
    }));
    const findKind = (own: KindSide, s: number) => {
      const { kind, data, proofs } = own;
      this.pages.content(data, context, watch);
      const checked = ofEachText((text) => {
        const wording = text === "slug" || !searches[s]![text].outsourced;
        const duplicate = (row: number) => isDuplicate[text](s, row);
        return this.texts.check({ ...own, text, isDuplicate: duplicate, wording }, context, watch);
      });
      const whole = (text: SearchedText) => {
        const bits = withSearch(text, checked[text], proofs[text], searches[s]![text], context, watch);
        this.texts.keep(own, text, context, checked[text]);
        return bits;
      };
      const texts = { slug: checked.slug.bits.slice(), title: whole("title"), description: whole("description") };
      const ofOthers = { titles: texts.title, canonicals: canonicals.get(kind) };
      const page = this.pages.find(own, ofOthers, designs[kind] ?? EMPTY_DESIGN, context);
      return [kind, { ...texts, page }] as const;
    };
    try {
      return new Map(sides.map(findKind));
    } catch (error) {
      for (const { title, description } of searches) for (const search of [title, description]) search.abandon();
      throw error;
    }
  }

  /** The findings of one item with where they stand, on one side. */
  explain(
    designs: Designs,
    kind: Kind,
    row: number,
    side: Side,
  ): { texts: Record<TextName, FoundText[]>; page: FindingId[] } {
    const bits = this.find(designs, side).get(kind)!;
    const own = this.sideOf(kind, designs, side, {});
    const context = siteContext(this.workspace, this.year());
    const texts = ofEachText((text) => {
      const on = bits[text][row]!;
      const has = (id: FindingId<TextName>) => (on & findingBit(text, id)) !== 0;
      const compared = {
        duplicate: has("duplicate"),
        near: has("near-duplicate"),
        same: has("same-as-other-text"),
      };
      return textFindings(text, this.texts.caseOf(own, text, row, compared, context), context).filter(({ id }) =>
        has(id),
      );
    });
    return { texts, page: findingIds("page", bits.page[row]!) };
  }

  private search(own: KindSide, text: SearchedText, context: SiteContext): Search {
    return this.near.begin(own, text, context, !this.texts.isKnown(own, text, context));
  }

  private sideOf(kind: Kind, designs: Designs, side: Side, watch: WorkWatch): KindSide {
    const { workspace } = this;
    const design = designs[kind] ?? EMPTY_DESIGN;
    const proofOf = (text: TextName) =>
      side === "live"
        ? workspace.liveProof(kind, text, watch).proof
        : workspace.textProof(kind, text, design, watch).proof;
    const told = side === "live" ? workspace.textProof(kind, "slug", design, watch).proof : null;
    return { kind, side, data: workspace.data(kind), proofs: { ...ofEachText(proofOf), told } };
  }
}

/** The bits of a text with those that the search found; a duplicate is not a near one. */
function withSearch(
  text: SearchedText,
  { bits }: CheckedText,
  proof: TextProof,
  search: Search,
  { checks }: SiteContext,
  { cancelled }: WorkWatch,
): Int32Array {
  const alive = () => {
    if (cancelled?.()) throw new Cancelled();
  };
  const { partners, wording } = search.found(alive);
  const on = switchedOn(checks, text);
  if (wording) for (let row = 0; row < bits.length; row++) bits[row]! |= wording[row]! & on;
  const all = bits.slice();
  const [near, duplicate] = [findingBit(text, "near-duplicate"), findingBit(text, "duplicate")];
  if (partners)
    for (let row = 0; row < all.length; row++)
      if (partners[row]! >= 0 && proof.lengths[row] !== 0 && (all[row]! & duplicate) === 0) all[row]! |= near;
  return all;
}

/** Whether a row of one of several sets reads the same as any other row of them all. */
function compareAll(proofs: readonly TextProof[]): (set: number, row: number) => boolean {
  const starts = proofs.map(() => 0);
  for (let set = 1; set < proofs.length; set++) starts[set] = starts[set - 1]! + proofs[set - 1]!.size;
  const groups = new TextGroups(proofs.reduce((sum, { size }) => sum + size, 0));
  proofs.forEach((proof, set) => {
    for (let row = 0; row < proof.size; row++)
      groups.put(starts[set]! + row, proof.compared1[row]!, proof.compared2[row]!);
  });
  return (set, row) => groups.countOf(starts[set]! + row) > 1;
}
