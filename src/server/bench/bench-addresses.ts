import { WantedSlugs } from "../../core/addresses/address-parts";
import { type AddressPlan, type HeldBack, planAddresses } from "../../core/addresses/address-plan";
import { normalAddress } from "../../core/addresses/path-form";
import { type AddressChange } from "../../core/addresses/address-change";
import { type KindDesign } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import { RedirectSourcesOf } from "../redirects/redirect-sources";
import { siteAddresses } from "../workspace/kind-addresses";
import { movesSettings } from "../workspace/kind-moves";
import { ObjectNumbers, Remembered } from "../workspace/remembered";
import { slugsOfKind } from "../workspace/wanted-slugs";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";

/** A page whose address becomes another one. */
export interface AddressExample {
  readonly id: number;
  readonly name: string;
  /** `""` where it has none yet. */
  readonly from: string;
  readonly to: string;
}

/** What a kind’s slug and address lines do to addresses, over the whole set. */
export interface ProvedAddresses {
  readonly kind: Kind;
  readonly total: number;
  /** Pages of the kind that go elsewhere for its lines. */
  readonly moves: number;
  /** Pages that get their first address. */
  readonly gets: number;
  /** Pages of whatever kind that only move along with one above them. */
  readonly along: number;
  /** Pages that cannot move, by why. */
  readonly held: Readonly<Record<HeldBack["why"] | "reserved", number>>;
  /** Pages whose new address leads to another one now: that redirect ends with the move. */
  readonly overRedirects: number;
  /** What becomes of addresses, in how many of those that move. */
  readonly changes: readonly { readonly change: AddressChange; readonly count: number }[];
  readonly examples: readonly AddressExample[];
  /** Of those that are held back. */
  readonly clashes: readonly AddressExample[];
  /** Why the address line is not used; `null` where it is, or there is none. */
  readonly fault: string | null;
}

const MOST_EXAMPLES = 5;

/** {@link slugsOfKind}, taken apart. */
interface SlugsForPlans {
  readonly wanted: WantedSlugs;
  readonly reserved: ReadonlySet<number>;
}

/** Proves what the lines of one kind would do to addresses while all others stay as they are. */
export class BenchAddresses {
  /** While the address line is typed the slugs stay what they are. */
  private readonly known = new Remembered<SlugsForPlans>(2);
  private readonly numbers = new ObjectNumbers();

  private readonly sources: RedirectSourcesOf;

  constructor(private readonly workspace: Workspace) {
    this.sources = new RedirectSourcesOf(workspace);
  }

  prove(kind: Kind, design: KindDesign, watch: WorkWatch = {}): ProvedAddresses {
    const { workspace } = this;
    const data = workspace.data(kind, watch);
    const pages = workspace.pages(watch);
    const first = pages.startOf.get(kind) ?? 0;
    const addresses = siteAddresses(workspace, workspace.kindsWithPages(watch), { [kind]: design }, pages.startOf);
    const { wanted, reserved } = this.wantedSlugs(kind, design, addresses.isShaped(kind), watch);
    const { slugs } = wanted;
    const plan = planAddresses({ known: pages.known, slugs: wanted, fixed: reserved, shaped: addresses.shaped });
    const own = plan.pages.filter((page) => slugs.has(page) && !plan.held.has(page));
    const example = (page: number, to: string): AddressExample => ({
      id: pages.ids[page]!,
      name: data.items.value("name", page - first),
      from: pages.paths[page]!,
      to,
    });
    const held = { clash: 0, below: 0, reserved: reserved.size };
    for (const { why } of plan.held.values()) held[why]++;
    const gets = own.reduce((count, page) => count + (pages.paths[page] === "" ? 1 : 0), 0);
    return {
      kind,
      total: data.ids.length,
      moves: own.length - gets,
      gets,
      along: plan.pages.length - own.length,
      held,
      overRedirects: this.overRedirects(plan, own, pages.paths),
      changes: [...plan.changesOf(own)].map(([change, count]) => ({ change, count })).sort((a, b) => b.count - a.count),
      examples: spread(own, MOST_EXAMPLES).map((page) => example(page, plan.to(page))),
      clashes: [...plan.held].slice(0, MOST_EXAMPLES).map(([page, { path }]) => example(page, path)),
      fault: addresses.faults[0]?.message ?? null,
    };
  }

  /** How many of the pages go where a redirect leads elsewhere now; one back to the page itself is none. */
  private overRedirects(plan: AddressPlan, pages: readonly number[], paths: readonly string[]): number {
    const sources = this.sources.sources();
    if (sources.size === 0) return 0;
    // Pages are many, their folders few, and hardly any folder has a redirect.
    const inFolder = new Map<string, ReadonlyMap<string, string> | undefined>();
    let count = 0;
    for (const page of pages) {
      const folder = plan.folderOf(page);
      if (!inFolder.has(folder)) inFolder.set(folder, sources.get(normalAddress(folder)));
      const to = inFolder.get(folder)?.get(normalAddress(plan.to(page)));
      if (to !== undefined && (to === "" || normalAddress(to) !== normalAddress(paths[page]!))) count++;
    }
    return count;
  }

  private wantedSlugs(kind: Kind, design: KindDesign, isShaped: boolean, watch: WorkWatch): SlugsForPlans {
    const { workspace } = this;
    const site = workspace.site();
    const { proof, stamp } = workspace.textProof(kind, "slug", design, watch);
    const rests = [
      kind,
      stamp,
      this.numbers.of(workspace.pages(watch)),
      isShaped,
      design.moves,
      design.movesFor,
      movesSettings(site),
      site.reserved,
    ];
    return this.known.get(JSON.stringify(rests), () => {
      const { slugs, reserved } = slugsOfKind(workspace, { kind, design, proof, isShaped });
      return { wanted: new WantedSlugs(workspace.pages().known, slugs), reserved };
    });
  }
}

/** Some of a list, from all over it. */
function spread<T>(list: readonly T[], most: number): T[] {
  if (list.length <= most) return [...list];
  return Array.from({ length: most }, (_, i) => list[Math.floor(((i + 0.5) * list.length) / most)]!);
}
