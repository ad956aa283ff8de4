import { type Side } from "../../core/checks/findings";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { type Kind, kindWord, type TextName } from "../../core/design/kinds";
import { type TextProof } from "../../core/proof/text-proof";
import { type Decision } from "../../core/rules/decide";
import { type KindFindings, type SiteFindings } from "../findings/site-findings";
import { ofEachText } from "../findings/text-checks";
import { type KindData } from "../workspace/kind-data";
import { type WorkWatch } from "../workspace/watch";
import { redirectsVersion } from "../../store/redirects";
import { type RobotsOf, type Workspace } from "../workspace/workspace";

/** One kind's pages among all of the site's: row `r` is number `start + r`. */
export interface KindView {
  readonly kind: Kind;
  /** What its pages are called. */
  readonly word: string;
  readonly start: number;
  readonly data: KindData;
  readonly live: Record<TextName, TextProof>;
  readonly draft: Record<TextName, TextProof>;
  readonly decision: Decision;
  readonly robots: RobotsOf;
  readonly found: Readonly<Record<Side, KindFindings>>;
}

/** All pages of a site with what was found in them, at one moment. It stays as it is. */
export interface SiteViews {
  /** Another one where drafts, settings or pages are. */
  readonly stamp: string;
  readonly kinds: readonly KindView[];
  /** How many pages there are. */
  readonly total: number;
}

/** @param stamp what the views rest on, worked out by {@link viewsStamp}. */
export function siteViews(
  workspace: Workspace,
  findings: SiteFindings,
  designs: Designs,
  stamp: string,
  watch: WorkWatch,
): SiteViews {
  const live = findings.find(designs, "live", watch);
  const draft = findings.find(designs, "draft", watch);
  let start = 0;
  const kinds = workspace.kindsWithPages().map((kind): KindView => {
    const design = designs[kind] ?? EMPTY_DESIGN;
    const data = workspace.data(kind);
    const view = {
      kind,
      word: kindWord(workspace.site(), kind, 2),
      start,
      data,
      live: ofEachText((text) => workspace.liveProof(kind, text).proof),
      draft: ofEachText((text) => workspace.textProof(kind, text, design).proof),
      decision: workspace.textProof(kind, "title", design).decision,
      robots: workspace.robots(kind, design, watch),
      found: { live: live.get(kind)!, draft: draft.get(kind)! },
    };
    start += data.ids.length;
    return view;
  });
  return { stamp, kinds, total: start };
}

/** What the views of a site rest on. */
export function viewsStamp(workspace: Workspace, designs: Designs, watch: WorkWatch): string {
  const kinds = workspace.kindsWithPages(watch).map((kind) => [kind, workspace.data(kind, watch).revision]);
  // What is found of canonicals rests on where redirects lead.
  return JSON.stringify([designs, workspace.site(), kinds, redirectsVersion(workspace.db)]);
}

/** The kind that a page is of, by the page's number. */
export function viewOf({ kinds }: SiteViews, number: number): KindView {
  let found = kinds[0]!;
  for (const view of kinds) if (view.start <= number) found = view;
  return found;
}
