import { foldWord } from "../text/fold";

/** A page that a broken link may have meant. */
export interface Candidate {
  readonly path: string;
  readonly name: string;
}

/** So much of the words’ weight has to be shared at least. */
const LEAST_SHARE = 0.5;
/** So many pages with the rarest word are looked at for one link. */
const MOST_LOOKED_AT = 5000;
/** So few are all weighed against each other, and so many at most. */
const FEW = 20;
const MOST_WEIGHED = 200;

/** Finds the page that a broken link most likely meant: by the words of its path, and of its text. */
export class LikelyPages {
  private readonly pagesOf = new Map<string, number[]>();
  /** The page with just these words in its last segment; `null` for several. */
  private readonly bySlug = new Map<string, number | null>();
  private readonly words: readonly ReadonlySet<string>[];

  constructor(private readonly pages: readonly Candidate[]) {
    this.words = pages.map(({ path, name }, page) => {
      const slug = wordsOf(lastSegment(path));
      const key = slug.join(" ");
      if (key !== "") this.bySlug.set(key, this.bySlug.has(key) ? null : page);
      return new Set([...slug, ...wordsOf(name)]);
    });
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
    const slug = wordsOf(lastSegment(path));
    const same = this.bySlug.get(slug.join(" "));
    if (same !== undefined && same !== null) return same;
    const weights = this.weightsOf(new Set(slug), new Set([...slug, ...wordsOf(text)]));
    // A word that no page has may be another form of one that some have.
    const ofSlug = slug.reduce((sum, word) => sum + weights.get(word)! / (this.pagesOf.has(word) ? 1 : 2), 0);
    let best: number | null = null;
    let most = 0;
    for (const page of this.candidates([...weights.keys()])) {
      const words = this.words[page]!;
      // Of two that share the same the one with fewer other words.
      let value = -words.size * 1e-3;
      for (const [word, weight] of weights) if (words.has(word)) value += weight;
      if (value > most) [best, most] = [page, value];
    }
    return best !== null && most >= ofSlug * LEAST_SHARE ? best : null;
  }

  /** What each word says: the rarer the more, as in any search: log(N / n). */
  private weightsOf(slug: ReadonlySet<string>, all: ReadonlySet<string>): ReadonlyMap<string, number> {
    const weight = (word: string) => Math.log(1 + this.pages.length / (this.pagesOf.get(word)?.length ?? 1));
    return new Map([...all].map((word) => [word, weight(word) * (slug.has(word) ? 1 : 0.5)]));
  }

  /** Pages with the rarest word, and of those the ones with the next, as long as there are many and any is left. */
  private candidates(words: readonly string[]): readonly number[] {
    const known = words.filter((word) => this.pagesOf.has(word));
    const pagesOf = (word: string) => this.pagesOf.get(word)!;
    const [rarest, ...others] = known.sort((a, b) => pagesOf(a).length - pagesOf(b).length);
    if (rarest === undefined) return [];
    let found: readonly number[] = pagesOf(rarest).slice(0, MOST_LOOKED_AT);
    for (const word of others) {
      if (found.length <= FEW) break;
      const narrowed = found.filter((page) => this.words[page]!.has(word));
      if (narrowed.length > 0) found = narrowed;
    }
    return found.slice(0, MOST_WEIGHED);
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
