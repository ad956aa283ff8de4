import { WantedSlugs } from "../../core/addresses/address-parts";
import { type AddressPlan, planAddresses } from "../../core/addresses/address-plan";
import { EMPTY_DESIGN, type Site } from "../../core/design/design";
import { siteAddresses } from "../workspace/kind-addresses";
import { Remembered } from "../workspace/remembered";
import { haveSameItems } from "../workspace/settings-used";
import { slugsOfKind } from "../workspace/wanted-slugs";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";

/** As many plans are remembered as a page of settings asks for at once. */
const MOST_PLANS = 8;

/** Says what settings do to addresses before they are saved. */
export class SettingsMoves {
  private readonly plans = new Remembered<AddressPlan>(MOST_PLANS);

  constructor(private readonly workspace: Workspace) {}

  /**
   * How many pages have another address by then, with the drafts applied, if these settings were others.
   *
   * @returns `null` where the settings also change how pages themselves are read: that is known once they are saved.
   */
  count(from: Site, to: Site, watch: WorkWatch = {}): number | null {
    const { workspace } = this;
    const stored = workspace.site();
    if (!haveSameItems(stored, from) || !haveSameItems(stored, to)) return null;
    const [before, after] = [this.planOf(from, watch), this.planOf(to, watch)];
    return new Set([...before.pages, ...after.pages].filter((page) => before.to(page) !== after.to(page))).size;
  }

  /** Where all pages are once the drafts are applied under some settings. */
  private planOf(site: Site, watch: WorkWatch): AddressPlan {
    const { workspace } = this;
    const { slug, language, slashEnd, reserved, checks } = site;
    const used = JSON.stringify([slug, language, slashEnd, reserved, checks.depth]);
    return this.plans.get(`${workspace.moment.stamp} ${used}`, () => workspace.tried(site, () => this.made(watch)));
  }

  private made(watch: WorkWatch): AddressPlan {
    const { workspace } = this;
    const drafts = workspace.drafts();
    const kinds = workspace.kindsWithPages(watch);
    const { known, startOf } = workspace.pages(watch);
    const addresses = siteAddresses(workspace, kinds, drafts, startOf);
    const slugs = new Map<number, string>();
    const fixed = new Set<number>();
    for (const kind of kinds) {
      const design = drafts[kind] ?? EMPTY_DESIGN;
      const { proof } = workspace.textProof(kind, "slug", design, watch, "tried");
      const own = slugsOfKind(workspace, { kind, design, proof, isShaped: addresses.isShaped(kind) });
      for (const [page, wanted] of own.slugs) slugs.set(page, wanted);
      for (const page of own.reserved) fixed.add(page);
    }
    return planAddresses({ known, slugs: new WantedSlugs(known, slugs), fixed, shaped: addresses.shaped });
  }
}
