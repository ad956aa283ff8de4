import { type CheckContext } from "../../core/checks/check-text";
import { type Side } from "../../core/checks/findings";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { type TextProof } from "../../core/proof/text-proof";
import { type KindData } from "../workspace/kind-data";
import { settingsUsed } from "../workspace/settings-used";
import { type Workspace } from "../workspace/workspace";

/** What is the same for every text of a site at a moment. */
export interface SiteContext extends CheckContext {
  readonly rooms: Readonly<Record<TextName, number>>;
  /** Another one where anything of this is. */
  readonly stamp: string;
}

/** The proofs of a kind's texts on one side, and what its lines tell the slugs to be, where that is another thing. */
export type SideProofs = Readonly<Record<TextName, TextProof>> & { readonly told: TextProof | null };

/** One side of a kind that is looked at. */
export interface KindSide {
  readonly kind: Kind;
  readonly side: Side;
  readonly data: KindData;
  readonly proofs: SideProofs;
}

export function siteContext(workspace: Workspace, year: number): SiteContext {
  const site = workspace.site();
  return {
    checks: site.checks,
    vocabulary: workspace.words(),
    siteName: site.name,
    reserved: new Set(site.reserved.map((word) => word.toLowerCase())),
    year,
    rooms: Object.fromEntries(TEXTS.map((text) => [text, workspace.roomWidth(text)])) as Record<TextName, number>,
    stamp: `${settingsUsed.findings(site)} ${year}`,
  };
}
