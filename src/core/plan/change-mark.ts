import { type TextProof } from "../proof/text-proof";

/**
 * What a change is told by: another one where what was before or what comes after is another text. It is put together of the
 * texts' hashes ({@link hashText}), so that nothing is written out for it.
 *
 * @example changeMark(live, draft, 7) // "1x4k9q.-8zq0m1.5.k2j31a.f00d1.12"
 */
export function changeMark(before: TextProof, after: TextProof, row: number): string {
  return [before, after]
    .flatMap(({ exact1, exact2, lengths }) => [exact1[row]!, exact2[row]!, lengths[row]!])
    .map((part) => part.toString(36))
    .join(".");
}
