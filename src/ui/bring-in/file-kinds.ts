import { type Kind, kindIds, type KindInfo, kindOf, type WithKinds, withKinds } from "../../core/design/kinds";
import type { newKind } from "../../core/design/new-kind";

/** What a word of a file's column of kinds is taken for: a kind of the site's, or one that it gets. */
export type WordChoice = { readonly known: Kind } | { readonly own: KindInfo };

/** What a person said of the kinds of a file. */
export interface FileKinds {
  /** By word, with how many rows have it. */
  readonly words: readonly { readonly word: string; readonly rows: number; readonly choice: WordChoice | null }[];
  /** The new kind that all rows are, `null` where they are of one that the site has. */
  readonly whole: KindInfo | null;
}

export const NO_KINDS: FileKinds = { words: [], whole: null };

/** With words that no kind is called by; what was said of a word before stays. */
export function withWords(kinds: FileKinds, unknown: readonly { word: string; rows: number }[]): FileKinds {
  const fresh = unknown.filter(({ word }) => !kinds.words.some((own) => own.word === word));
  if (fresh.length === 0) return kinds;
  return { ...kinds, words: [...kinds.words, ...fresh.map((own) => ({ ...own, choice: null }))] };
}

/** With something else said of a word. */
export function withChoice(kinds: FileKinds, word: string, choice: WordChoice | null): FileKinds {
  return { ...kinds, words: kinds.words.map((own) => (own.word === word ? { ...own, choice } : own)) };
}

/** A kind for a word that differs from all that the site has, or gets. One that a single row is of is taken for one of a single page. */
export function kindForWord(site: WithKinds, kinds: FileKinds, word: string, make: typeof newKind): KindInfo {
  const isSingle = kinds.words.find((own) => own.word === word)?.rows === 1;
  return { ...make(word, [...kindIds(site), ...addedKinds(site, kinds).map(({ id }) => id)]), isSingle };
}

/** The kinds that the site gets: the new ones, and those that it has with further words for them. */
export function addedKinds(site: WithKinds, { words, whole }: FileKinds): readonly KindInfo[] {
  const taught = words.reduce<readonly KindInfo[]>((added, { word, choice }) => {
    if (choice === null) return added;
    if ("own" in choice) return withKinds(added, [choice.own]);
    const present = added.find(({ id }) => id === choice.known) ?? kindOf(site, choice.known);
    return present ? withKinds(added, [{ ...present, words: [...present.words, word] }]) : added;
  }, []);
  return whole ? withKinds(taught, [whole]) : taught;
}
