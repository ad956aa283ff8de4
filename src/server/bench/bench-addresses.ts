import { type HeldBack, planAddresses } from "../../core/addresses/address-plan";
import { lastSegment } from "../../core/addresses/addresses";
import { type AddressChange, countChanges } from "../../core/addresses/address-change";
import { type KindDesign } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import { siteAddresses } from "../workspace/kind-addresses";
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
  /** What becomes of addresses, in how many of those that move. */
  readonly changes: readonly { readonly change: AddressChange; readonly count: number }[];
  readonly examples: readonly AddressExample[];
  /** Of those that are held back. */
  readonly clashes: readonly AddressExample[];
  /** Why the address line is not used; `null` where it is, or there is none. */
  readonly fault: string | null;
}

const MOST_EXAMPLES = 5;

/** Proves what the lines of one kind would do to addresses while all others stay as they are. */
export function proveAddresses(
  workspace: Workspace,
  kind: Kind,
  design: KindDesign,
  watch: WorkWatch = {},
): ProvedAddresses {
  const kinds = workspace.kindsWithPages(watch);
  const data = workspace.data(kind, watch);
  const pages = workspace.pages(watch);
  const first = pages.startOf.get(kind) ?? 0;
  const addresses = siteAddresses(workspace, kinds, { [kind]: design }, pages.startOf);
  const fault = addresses.faults[0]?.message ?? null;
  const reserved = new Set(workspace.site().reserved.map((word) => word.toLowerCase()));
  const { proof } = workspace.textProof(kind, "slug", design, watch);
  const mayMove = workspace.mayMove(kind, design);
  const slugs = new Map<number, string>();
  const fixed = new Set<number>();
  const isShaped = addresses.isShaped(kind);
  for (let row = 0; row < data.ids.length; row++) {
    const path = data.paths[row]!;
    if (!mayMove(row)) continue;
    const slug = proof.lengths[row] === 0 ? lastSegment(path) : proof.textOf(row);
    const isWanted = slug !== "" && (isShaped || path === "" || slug !== lastSegment(path));
    if (!isWanted) continue;
    if (reserved.size > 0 && reserved.has(slug.toLowerCase())) fixed.add(first + row);
    else slugs.set(first + row, slug);
  }
  const plan = planAddresses({
    paths: pages.paths,
    folders: pages.folders,
    slugs,
    fixed,
    shaped: addresses.shaped,
  });
  const own = plan.moves.filter(({ page }) => slugs.has(page) && !plan.held.has(page));
  const example = (page: number, to: string): AddressExample => ({
    id: pages.ids[page]!,
    name: data.items.value("name", page - first),
    from: pages.paths[page]!,
    to,
  });
  const held = { clash: 0, below: 0, reserved: fixed.size };
  for (const { why } of plan.held.values()) held[why]++;
  const moving = own.filter(({ from }) => from !== "");
  const counts = countChanges(moving);
  return {
    kind,
    total: data.ids.length,
    moves: moving.length,
    gets: own.length - moving.length,
    along: plan.moves.length - own.length,
    held,
    changes: [...counts].map(([change, count]) => ({ change, count })).sort((a, b) => b.count - a.count),
    examples: spread(own, MOST_EXAMPLES).map(({ page, to }) => example(page, to)),
    clashes: [...plan.held].slice(0, MOST_EXAMPLES).map(([page, { path }]) => example(page, path)),
    fault,
  };
}

/** Some of a list, from all over it. */
function spread<T>(list: readonly T[], most: number): T[] {
  if (list.length <= most) return [...list];
  return Array.from({ length: most }, (_, i) => list[Math.floor(((i + 0.5) * list.length) / most)]!);
}
