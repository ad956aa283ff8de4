/**
 * One of 32 bits for a stem's number: where the bits of a text's stems lack a stem's bit, the stem is not in the text.
 *
 * @example stemBit(33) // 2
 */
export function stemBit(stem: number): number {
  return 1 << (stem & 31);
}
