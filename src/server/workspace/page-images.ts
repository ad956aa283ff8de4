import { IMAGE_FIELDS } from "../../core/lines/fields";
import { type Column, ColumnWriter, ItemSet } from "../../core/proof/items";
import { imageFile, imagesOf } from "../../core/text/images";
import { type Db } from "../../store/open";
import { iterateBodies } from "../../store/items";
import { type KindData } from "./kind-data";

/** What bodies say of their images; the same as long as the bodies are. */
interface ScannedImages {
  /** The page's row of each image, rising. */
  readonly pages: Int32Array;
  readonly numbers: Int32Array;
  readonly sources: Column;
  readonly alts: readonly string[];
}

/** The images of a kind's pages, each a row of its own with the fields of its page. */
export interface PageImages extends ScannedImages {
  readonly items: ItemSet;
  /** What a person wrote, by image. */
  readonly hand: ReadonlyMap<number, string>;
  readonly folders: Column;
}

/** The images of kinds, as they are in their bodies. */
export class ImagesOfKinds {
  private readonly scanned = new WeakMap<object, ScannedImages>();
  private readonly known = new WeakMap<KindData, PageImages>();

  constructor(private readonly db: Db) {}

  of(data: KindData): PageImages {
    let images = this.known.get(data);
    if (!images) this.known.set(data, (images = imagesWith(this.scan(data), data)));
    return images;
  }

  private scan(data: KindData): ScannedImages {
    let scanned = this.scanned.get(data.loading);
    if (!scanned) this.scanned.set(data.loading, (scanned = scan(this.db, data)));
    return scanned;
  }
}

function scan(db: Db, data: KindData): ScannedImages {
  const found: { readonly page: number; readonly number: number; readonly src: string; readonly alt: string }[] = [];
  for (const { id, body } of iterateBodies(db, data.kind)) {
    const page = data.rowOf(id);
    if (page < 0) continue;
    // Stretches of bodies would hold the bodies.
    for (const { number, src, alt } of imagesOf(body)) found.push({ page, number, src: own(src), alt: own(alt) });
  }
  const sources = new ColumnWriter(found.length);
  found.forEach(({ src }, i) => sources.set(i, src));
  return {
    pages: Int32Array.from(found, ({ page }) => page),
    numbers: Int32Array.from(found, ({ number }) => number),
    sources: sources.column(),
    alts: found.map(({ alt }) => alt),
  };
}

function imagesWith(scanned: ScannedImages, data: KindData): PageImages {
  const { pages, numbers, sources } = scanned;
  const gathered = ({ codes, table }: Column): Column => ({
    codes: Int32Array.from(pages, (row) => codes[row]!),
    table,
  });
  const load = (field: string): Column | null => {
    if (field === "image.number") return columnOf(pages.length, (i) => String(numbers[i]));
    if (field !== "image.file") return gathered(data.items.column(field));
    const words = sources.table.values.map(imageFile);
    return columnOf(pages.length, (i) => words[sources.codes[i]!]!);
  };
  const hand = new Map<number, string>();
  if (data.altHands.size > 0)
    pages.forEach((page, i) => {
      const own = data.altHands.get(page)?.get(sources.table.values[sources.codes[i]!]!);
      if (own !== undefined) hand.set(i, own);
    });
  const fields = [...data.fieldNames, ...IMAGE_FIELDS.map(({ name }) => name)];
  return { ...scanned, items: data.items.gathered(pages.length, fields, load), hand, folders: gathered(data.folders) };
}

/** The row of a page's image by its number, -1 where there is none. */
export function imageRow({ pages, numbers }: PageImages, page: number, number: number): number {
  return pages.findIndex((own, row) => own === page && numbers[row] === number);
}

function columnOf(size: number, value: (row: number) => string): Column {
  const writer = new ColumnWriter(size);
  for (let row = 0; row < size; row++) writer.set(row, value(row));
  return writer.column();
}

/** A text that holds no longer one that it is a stretch of. */
function own(text: string): string {
  return text.length === 0 ? "" : Buffer.from(text).toString();
}
