import { lastSegment } from "../../core/addresses/addresses";
import { type KindDesign } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import { type TextProof } from "../../core/proof/text-proof";
import { type Workspace } from "./workspace";

/** The slugs that a kind’s pages are to have, by the numbers that a plan tells them by. */
export interface SlugsOfKind {
  readonly slugs: ReadonlyMap<number, string>;
  /** Pages that would get a slug that the site itself answers at. */
  readonly reserved: ReadonlySet<number>;
}

/**
 * The slugs that a design’s slug line makes of pages that may move.
 *
 * @param isShaped whether an address line puts the kind’s addresses together: a page may move then with the slug that it has.
 */
export function slugsOfKind(
  workspace: Workspace,
  { kind, design, proof, isShaped }: { kind: Kind; design: KindDesign; proof: TextProof; isShaped: boolean },
): SlugsOfKind {
  const { paths } = workspace.data(kind);
  const first = workspace.pages().startOf.get(kind) ?? 0;
  const mayMove = workspace.mayMove(kind, design);
  const reservedWords = new Set(workspace.site().reserved.map((word) => word.toLowerCase()));
  const slugs = new Map<number, string>();
  const reserved = new Set<number>();
  paths.forEach((path, row) => {
    if (!mayMove(row)) return;
    const slug = proof.lengths[row] === 0 ? lastSegment(path) : proof.textOf(row);
    const isWanted = slug !== "" && (isShaped || path === "" || slug !== lastSegment(path));
    if (!isWanted) return;
    if (reservedWords.size > 0 && reservedWords.has(slug.toLowerCase())) reserved.add(first + row);
    else slugs.set(first + row, slug);
  });
  return { slugs, reserved };
}
