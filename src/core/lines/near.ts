/**
 * The candidate that a mistyped word most probably meant, or `undefined` where none is near: at most one slip in four
 * characters, where a slip is a wrong, missing, surplus or swapped character (optimal string alignment distance).
 *
 * @example nearest("nmae", ["name", "intro"]) // "name"
 */
export function nearest(word: string, candidates: Iterable<string>): string | undefined {
  if (word.length > 64) return undefined;
  const most = Math.max(1, Math.floor(word.length / 4));
  let best: string | undefined;
  let bestDistance = most + 1;
  for (const candidate of candidates) {
    if (Math.abs(candidate.length - word.length) >= bestDistance) continue;
    const distance = slips(word, candidate);
    if (distance < bestDistance) {
      best = candidate;
      bestDistance = distance;
    }
  }
  return best;
}

function slips(a: string, b: string): number {
  let beforeLast: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let value = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        value = Math.min(value, beforeLast[j - 2]! + 1);
      row.push(value);
    }
    beforeLast = last;
    last = row;
  }
  return last[b.length]!;
}
