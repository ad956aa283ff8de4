import { type KindDesign } from "../../core/design/design";
import { type ExtraName, type Kind } from "../../core/design/kinds";
import { htmlParts } from "../../core/text/plain";
import { iterateBodies } from "../../store/items";
import { type KindData } from "../workspace/kind-data";
import { type FaultyLine } from "../workspace/proofs";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";

/** What lines make of an extra text. */
export interface ProvedExtra {
  /** Pages that it is for. */
  readonly pages: number;
  /** Images without a description on them. */
  readonly images: number;
  /** Pages of which the lines make something. */
  readonly filled: number;
  /** Of those the ones that read like another. */
  readonly same: number;
  /** Characters of the longest. */
  readonly longest: number;
  readonly faults: readonly FaultyLine[];
  readonly examples: readonly { readonly name: string; readonly text: string }[];
}

/** The extra texts: image descriptions and meta keywords. */
export class ExtraDesk {
  /** By the loading of the items that they were counted on. */
  private readonly images = new WeakMap<object, Int32Array>();

  constructor(private readonly workspace: Workspace) {}

  /** What an extra text's lines make of a kind; for image descriptions of the pages that have an image without one. */
  prove(kind: Kind, design: KindDesign, extra: ExtraName, watch: WorkWatch = {}): ProvedExtra {
    const { proof, faults } = this.workspace.extraProof(kind, extra, design, watch);
    const data = this.workspace.data(kind);
    const images = extra === "alt" ? this.bareImages(kind, data) : null;
    const counts = { pages: 0, images: 0, filled: 0, same: 0, longest: 0 };
    const examples: { name: string; text: string }[] = [];
    for (let row = 0; row < proof.size; row++) {
      if (images !== null && images[row] === 0) continue;
      counts.pages++;
      counts.images += images?.[row] ?? 0;
      if (proof.lengths[row] === 0) continue;
      counts.filled++;
      if (proof.groups.countOf(row) > 1) counts.same++;
      counts.longest = Math.max(counts.longest, proof.lengths[row]!);
      if (examples.length < 2 && row % 97 >= 96 - examples.length)
        examples.push({ name: data.items.value("name", row), text: proof.textOf(row) });
    }
    return { ...counts, faults, examples };
  }

  /** The texts that an extra line makes, of a stretch of a kind's pages; `null` where nothing is to be said. */
  texts(kind: Kind, design: KindDesign, extra: ExtraName, from: number, count: number): (string | null)[] {
    const { proof } = this.workspace.extraProof(kind, extra, design);
    const images = extra === "alt" ? this.bareImages(kind, this.workspace.data(kind)) : null;
    return Array.from({ length: Math.max(0, Math.min(count, proof.size - from)) }, (_, i) =>
      images?.[from + i] === 0 || proof.lengths[from + i] === 0 ? null : proof.textOf(from + i),
    );
  }

  /** How many images without a description each page has. */
  private bareImages(kind: Kind, data: KindData): Int32Array {
    let known = this.images.get(data.loading);
    if (!known) {
      known = new Int32Array(data.ids.length);
      for (const { id, body } of iterateBodies(this.workspace.db, kind))
        if (body.includes("<img")) known[data.rowOf(id)] = htmlParts(body).images.filter((alt) => alt === "").length;
      this.images.set(data.loading, known);
    }
    return known;
  }
}
