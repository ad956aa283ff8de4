import { foldWord } from "../text/fold";

/** A page that a broken link may have meant. */
export interface Candidate {
  readonly path: string;
  readonly name: string;
}

/** So much of the words’ weight has to be shared at least. */
const LEAST_SHARE = 0.5;
/** Words on more pages than that tell nothing, and are not followed. */
const MOST_PAGES = 2000;

/** Finds the page that a broken link most likely meant: by the words of its path, and of its text. */
export class LikelyPages {
  private readonly pagesOf = new Map<string, number[]>();
  private readonly words: readonly ReadonlySet<string>[];

  constructor(private readonly pages: readonly Candidate[]) {
    this.words = pages.map(({ path, name }) => new Set([...wordsOf(lastSegment(path)), ...wordsOf(name)]));
    this.words.forEach((words, page) => {
      for (const word of words) {
        const own = this.pagesOf.get(word);
        if (own) own.push(page);
        else this.pagesOf.set(word, [page]);
      }
    });
  }

  /**
   * The likeliest page by its number; `null` where none is likely.
   *
   * @param path the link’s, @param text what is read of it.
   */
  of(path: string, text: string): number | null {
    const slug = new Set(wordsOf(lastSegment(path)));
    const asked = new Set([...slug, ...wordsOf(text)]);
    const scores = new Map<number, number>();
    let slugWeight = 0;
    for (const word of asked) {
      const pages = this.pagesOf.get(word) ?? [];
      // What is rare says more, as in any search: log(N / n).
      const weight = Math.log(1 + this.pages.length / Math.max(1, pages.length)) * (slug.has(word) ? 1 : 0.5);
      // A word that no page has may be another form of one that some have.
      if (slug.has(word)) slugWeight += pages.length > 0 ? weight : weight / 2;
      if (pages.length <= MOST_PAGES) for (const page of pages) scores.set(page, (scores.get(page) ?? 0) + weight);
    }
    let best: number | null = null;
    let most = 0;
    for (const [page, score] of scores) {
      // Of two that share the same the one with fewer other words.
      const value = score - this.words[page]!.size * 1e-3;
      if (value > most) [best, most] = [page, value];
    }
    return best !== null && most >= slugWeight * LEAST_SHARE ? best : null;
  }
}

function wordsOf(text: string): string[] {
  return (text.match(/[\p{L}\p{N}\p{M}]{2,}/gu) ?? []).map(foldWord);
}

/** What of a path names a page: its last segment, without an ending. */
function lastSegment(path: string): string {
  const text = decoded(path.replace(/[?#].*$/s, "")).replace(/\.[a-z]{2,5}$/i, "");
  return text.split("/").findLast((segment) => segment !== "") ?? "";
}

function decoded(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}
