/**
 * Which of the texts that are brought in a person wrote: those that no template of the site explains, all, or none. What is
 * by hand is never replaced by a line.
 */
export const BY_HAND_CHOICES = ["unexplained", "all", "none"] as const;
export type ByHandChoice = (typeof BY_HAND_CHOICES)[number];

/** In a set of fewer texts nothing is told from what they share: none is taken for written by hand. */
const FEWEST_TEXTS = 20;
/** A shape is a template's where so many texts have it, and this share of all. */
const FEWEST_ALIKE = 3;
const SHARE_ALIKE = 0.005;

/** Counts the shapes of a set's texts, and tells those that nothing explains. */
export class SharedShapes {
  private readonly numbers = new Map<string, number>();
  private readonly counts: number[] = [];
  private total = 0;

  /** Counts a text's shape ({@link textShape}); an empty text's is not counted. @returns the shape's number. */
  see(shape: string): number {
    this.total++;
    const known = this.numbers.get(shape);
    const number = known ?? this.counts.push(0) - 1;
    if (known === undefined) this.numbers.set(shape, number);
    this.counts[number]!++;
    return number;
  }

  /** Whether no template explains a text of the shape with that number: hardly any other has it. */
  isUnexplained(shape: number): boolean {
    if (this.total < FEWEST_TEXTS) return false;
    return this.counts[shape]! < Math.max(FEWEST_ALIKE, this.total * SHARE_ALIKE);
  }
}
