import { type KindDesign } from "../../core/design/design";
import { type ExtraName, EXTRAS, type Kind } from "../../core/design/kinds";
import { type From, FROM, LIVE } from "../../core/proof/text-proof";
import { type FaultyLine } from "../workspace/proofs";
import { type PageImages } from "../workspace/page-images";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";

/** What lines make of an extra text. */
export interface ProvedExtra {
  /** What it is made for: images that the site says nothing of, pages for meta keywords. */
  readonly wanted: number;
  /** Pages that those are on. */
  readonly pages: number;
  /** Of how many the lines make something. */
  readonly filled: number;
  /** Of those the ones that read like another. */
  readonly same: number;
  /** Characters of the longest. */
  readonly longest: number;
  readonly faults: readonly FaultyLine[];
  readonly examples: readonly { readonly name: string; readonly text: string }[];
}

/** An extra text of a page: what the site has, and what it is under the drafts. */
export interface ExtraText {
  readonly text: ExtraName;
  /** Of an image: which of the page's it is, from 1, and its address as it stands in the body; 0 and `""` for what is no image's. */
  readonly part: number;
  readonly image: string;
  readonly live: string;
  readonly draft: string;
  readonly from: From;
}

/** The extra texts: image descriptions, one for each image, and meta keywords. */
export class ExtraDesk {
  constructor(private readonly workspace: Workspace) {}

  /** What an extra text's lines make of a kind. */
  prove(kind: Kind, design: KindDesign, extra: ExtraName, watch: WorkWatch = {}): ProvedExtra {
    const { proof, faults } = this.workspace.extraProof(kind, extra, design, watch);
    const { items } = this.workspace.data(kind);
    const images = extra === "alt" ? this.workspace.images(kind, watch) : null;
    const pages = new Uint8Array(items.size);
    const counts = { wanted: 0, filled: 0, same: 0, longest: 0 };
    const examples: { name: string; text: string }[] = [];
    for (let row = 0; row < proof.size; row++) {
      if (images && images.alts[row] !== "") continue;
      const page = images ? images.pages[row]! : row;
      counts.wanted++;
      pages[page] = 1;
      if (proof.lengths[row] === 0 || proof.from[row] === LIVE) continue;
      counts.filled++;
      if (proof.groups.countOf(row) > 1) counts.same++;
      counts.longest = Math.max(counts.longest, proof.lengths[row]!);
      if (examples.length < 2 && row % 97 >= 96 - examples.length)
        examples.push({ name: items.value("name", page), text: proof.textOf(row) });
    }
    return { ...counts, pages: pages.reduce((sum, one) => sum + one, 0), faults, examples };
  }

  /** The extra texts that are switched on, of a stretch of a kind's pages; for each page those that it has, or would have. */
  texts(kind: Kind, design: KindDesign, from: number, count: number): ExtraText[][] {
    const on = EXTRAS.filter((extra) => this.workspace.site().extras[extra]);
    const { size } = this.workspace.data(kind).items;
    const pages = Array.from({ length: Math.max(0, Math.min(count, size - from)) }, (): ExtraText[] => []);
    for (const extra of on) {
      const { proof } = this.workspace.extraProof(kind, extra, design);
      const { proof: live } = this.workspace.liveExtraProof(kind, extra);
      const images = extra === "alt" ? this.workspace.images(kind) : null;
      const first = images ? firstFrom(images.pages, from) : from;
      for (let row = first; row < proof.size; row++) {
        const page = (images ? images.pages[row]! : row) - from;
        if (page >= pages.length) break;
        pages[page]!.push({
          text: extra,
          ...imageAt(images, row),
          live: live.textOf(row),
          draft: proof.lengths[row] === 0 ? live.textOf(row) : proof.textOf(row),
          from: FROM[proof.from[row]!]!,
        });
      }
    }
    return pages;
  }
}

function imageAt(images: PageImages | null, row: number): Pick<ExtraText, "part" | "image"> {
  if (!images) return { part: 0, image: "" };
  const { numbers, sources } = images;
  return { part: numbers[row]!, image: sources.table.values[sources.codes[row]!]! };
}

/** The first of rising rows that is not below one. */
function firstFrom(rows: Int32Array, from: number): number {
  let low = 0;
  let high = rows.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rows[middle]! < from) low = middle + 1;
    else high = middle;
  }
  return low;
}
