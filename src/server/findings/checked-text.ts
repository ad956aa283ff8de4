import { type TextProof } from "../../core/proof/text-proof";

/** What a text's findings depend on, besides the settings: where all of it is the same, so are they. */
export interface CheckedAs {
  readonly hash1: number;
  readonly hash2: number;
  /** A hash of the other text that it is compared with, 0 for none. */
  readonly other: number;
  /** The number of the page's keyword. */
  readonly keyword: number;
  /** Bits for all that is either so or not. */
  readonly flags: number;
}

/** Of a text that was never checked. */
const NEVER = 255;

/** What was found in one text of a kind's pages on one side: only texts that changed are checked again. */
export class CheckedText {
  /** Near duplicates aside. */
  readonly bits: Int32Array;
  private readonly hashes1: Int32Array;
  private readonly hashes2: Int32Array;
  private readonly others: Int32Array;
  private readonly keywords: Int32Array;
  private readonly flags: Uint8Array;

  constructor(size: number) {
    this.bits = new Int32Array(size);
    this.hashes1 = new Int32Array(size);
    this.hashes2 = new Int32Array(size);
    this.others = new Int32Array(size);
    this.keywords = new Int32Array(size);
    this.flags = new Uint8Array(size).fill(NEVER);
  }

  /** Another one in which the same was found so far. */
  copy(): CheckedText {
    const copy = new CheckedText(this.bits.length);
    copy.bits.set(this.bits);
    copy.hashes1.set(this.hashes1);
    copy.hashes2.set(this.hashes2);
    copy.others.set(this.others);
    copy.keywords.set(this.keywords);
    copy.flags.set(this.flags);
    return copy;
  }

  /** Of how many rows the text is the one that was checked. */
  sameTexts({ size, exact1, exact2 }: Pick<TextProof, "size" | "exact1" | "exact2">): number {
    let same = 0;
    for (let row = 0; row < size; row++)
      if (this.flags[row] !== NEVER && this.hashes1[row] === exact1[row] && this.hashes2[row] === exact2[row]) same++;
    return same;
  }

  /** Whether a row was checked as it is. */
  was(row: number, { hash1, hash2, other, keyword, flags }: CheckedAs): boolean {
    return (
      this.hashes1[row] === hash1 &&
      this.hashes2[row] === hash2 &&
      this.others[row] === other &&
      this.keywords[row] === keyword &&
      this.flags[row] === flags
    );
  }

  /** Notes what was found in a row that is like this. */
  note(row: number, { hash1, hash2, other, keyword, flags }: CheckedAs, bits: number): void {
    this.hashes1[row] = hash1;
    this.hashes2[row] = hash2;
    this.others[row] = other;
    this.keywords[row] = keyword;
    this.flags[row] = flags;
    this.bits[row] = bits;
  }
}
