import { FORMS, type Keyword, placeKeyword, type Vocabulary } from "../keywords/place";
import { unitsToPx } from "../measure/advance";
import { emptyHash, hashText, type TextHash } from "../text/hash";
import { append, unitsBefore } from "./compose";
import { type ProofColumns } from "./text-proof";
import { type TextMeter } from "./text-meter";

const floats = (size: number) => new Float32Array(new SharedArrayBuffer(4 * size));
const numbers = (size: number) => new Int32Array(new SharedArrayBuffer(4 * size));
const bytes = (size: number) => new Uint8Array(new SharedArrayBuffer(size));

/** The columns of a proof that are told of a text itself, whoever made it, each in memory that threads can share. */
const SHARED = {
  sizes: floats,
  lengths: numbers,
  exact1: numbers,
  exact2: numbers,
  compared1: numbers,
  compared2: numbers,
  fits: bytes,
  form: bytes,
  keywordAt: floats,
  keywordSeen: bytes,
} as const satisfies Partial<Record<keyof ProofColumns, unknown>>;
export const GIVEN_COLUMNS = Object.keys(SHARED) as readonly (keyof typeof SHARED)[];
export type GivenColumns = Pick<ProofColumns, keyof typeof SHARED>;

/** Such columns for so many rows. */
export function sharedColumns(size: number): GivenColumns {
  return Object.fromEntries(GIVEN_COLUMNS.map((name) => [name, SHARED[name](size)])) as unknown as GivenColumns;
}

/** The hashes, case aside, of the folder that a page is in: what its slug is compared with. */
export type FolderHash = Pick<TextHash, "folded1" | "folded2">;

/** Proves texts that no line makes: what a site has, and what is written by hand. */
export class GivenProver {
  private readonly hash = emptyHash();

  constructor(
    private readonly meter: TextMeter,
    private readonly vocabulary: Vocabulary,
  ) {}

  /** Writes down what is known of a row's text. */
  write(columns: GivenColumns, row: number, text: string, keyword: Keyword | null, folder: FolderHash | null): void {
    const { meter, hash } = this;
    hashText(text, hash);
    columns.lengths[row] = text.length;
    columns.fits[row] = meter.measure(text) ? 1 : 0;
    columns.sizes[row] = meter.size;
    writeHash(columns, row, hash, folder);
    columns.form[row] = 0;
    columns.keywordAt[row] = -1;
    columns.keywordSeen[row] = 0;
    if (keyword) this.place(columns, row, text, keyword);
  }

  private place(columns: GivenColumns, row: number, text: string, keyword: Keyword): void {
    const { meter } = this;
    const place = placeKeyword(this.vocabulary, keyword, text);
    columns.form[row] = FORMS.indexOf(place.form) + 1;
    if (place.char === null) return;
    columns.keywordAt[row] = meter.slug
      ? place.char - 1
      : unitsToPx(meter.font, unitsBefore(meter.font, text, place.char - 1), meter.px);
    columns.keywordSeen[row] = columns.fits[row] === 1 || meter.isSeen(text, place.end!) ? 1 : 0;
  }
}

/** Writes a text's hashes down as a row's; one that is compared with its folder gets that put before it. */
export function writeHash(columns: GivenColumns, row: number, hash: TextHash, folder: FolderHash | null): void {
  columns.exact1[row] = hash.exact1;
  columns.exact2[row] = hash.exact2;
  if (folder && columns.lengths[row] !== 0) {
    const { folded1, folded2 } = hash;
    hash.folded1 = folder.folded1;
    hash.folded2 = folder.folded2;
    append(hash, 0, 0, folded1, folded2, columns.lengths[row]!);
  }
  columns.compared1[row] = hash.folded1;
  columns.compared2[row] = hash.folded2;
}
