/**
 * The last so many results by what they rest on: a result is given again only where its stamp is the same to the letter.
 *
 * @example
 * const sums = new Remembered<number>(10);
 * sums.get("1 2", () => 1 + 2); // 3, worked out
 * sums.get("1 2", () => 1 + 2); // 3, remembered
 */
export class Remembered<T> {
  private readonly held = new Map<string, T>();

  constructor(private readonly most: number) {}

  /** The result that has this stamp; worked out where none is remembered. What throws leaves nothing behind. */
  get(stamp: string, work: () => T): T {
    if (this.held.has(stamp)) {
      const known = this.held.get(stamp)!;
      this.held.delete(stamp);
      this.held.set(stamp, known);
      return known;
    }
    const made = work();
    // The least recently asked for goes first.
    if (this.held.size >= this.most) this.held.delete(this.held.keys().next().value!);
    this.held.set(stamp, made);
    return made;
  }
}

/** Gives objects numbers, for stamps of what rests on them. An object is not held for it. */
export class ObjectNumbers {
  private readonly numbers = new WeakMap<object, number>();
  private next = 1;

  of(object: object): number {
    let number = this.numbers.get(object);
    if (number === undefined) this.numbers.set(object, (number = this.next++));
    return number;
  }
}
