import { type PracticeStore } from "./practice-store";

/** A thing that can go wrong with a site. */
export interface Fault {
  /** What it is switched by. */
  readonly name: string;
  /** Who meets it: programs at the interface, or visitors. */
  readonly at: "interface" | "pages";
  /** What happens, in words. */
  readonly words: string;
  /** Of how many requests out of 100 it befalls where it is switched on without a figure. */
  readonly usually: number;
}

/** Everything that can be switched on, in the order in which the start page shows it. */
export const FAULTS = [
  { name: "too-many", at: "interface", words: "429, to be tried again after a second", usually: 30 },
  { name: "errors", at: "interface", words: "500, before the work or, as often, after it", usually: 20 },
  { name: "slow", at: "interface", words: "answers after two seconds", usually: 20 },
  { name: "hanging", at: "interface", words: "never answers, the work done or, as often, not", usually: 5 },
  { name: "dropped", at: "interface", words: "the connection ends in the middle of the answer", usually: 10 },
  { name: "half-refused", at: "interface", words: "every second change of a batch is refused", usually: 100 },
  { name: "changed-meanwhile", at: "interface", words: "somebody edits the page right before the change", usually: 20 },
  { name: "token-ended", at: "interface", words: "the token is no longer accepted", usually: 100 },
  { name: "rubbish", at: "interface", words: "something else than was asked for, or half of it", usually: 10 },
  { name: "stale-pages", at: "pages", words: "texts from a cache, up to a minute old", usually: 100 },
  { name: "adds-name", at: "pages", words: "the theme adds the site’s name to every title", usually: 100 },
  { name: "cuts-descriptions", at: "pages", words: "the theme cuts descriptions at 160 characters", usually: 100 },
  { name: "escapes-twice", at: "pages", words: "the theme escapes titles and descriptions twice", usually: 100 },
  { name: "noindex", at: "pages", words: "the theme leaves noindex on every page", usually: 100 },
  { name: "redirect-302", at: "pages", words: "redirects are temporary ones", usually: 100 },
  { name: "redirect-chain", at: "pages", words: "redirects lead there in three steps", usually: 100 },
  { name: "redirect-loop", at: "pages", words: "redirects lead in a circle", usually: 100 },
  { name: "wrong-charset", at: "pages", words: "pages in UTF-8 say that they are something else", usually: 100 },
  { name: "huge", at: "pages", words: "20 MB of HTML", usually: 100 },
  { name: "broken-html", at: "pages", words: "HTML with tags that end nowhere, and two titles", usually: 100 },
  { name: "gzip-bomb", at: "pages", words: "a gigabyte of spaces, compressed", usually: 100 },
] as const satisfies readonly Fault[];
export type FaultName = (typeof FAULTS)[number]["name"];

const NAMES: ReadonlySet<string> = new Set(FAULTS.map(({ name }) => name));

export function isFaultName(name: string): name is FaultName {
  return NAMES.has(name);
}

/** Which faults are switched on, and whether they befall a request. */
export class Faults {
  /** @param random from 0 up to, but not, 1. */
  constructor(
    private readonly store: PracticeStore,
    private readonly random: () => number = Math.random,
  ) {}

  /** Of how many requests out of 100 each befalls; those that are off are left out. */
  shares(): ReadonlyMap<FaultName, number> {
    return new Map(
      this.store.faults().flatMap(({ name, share }) => (isFaultName(name) ? [[name, share] as const] : [])),
    );
  }

  /** Switches a fault on, for so many requests out of 100; 0 switches it off. */
  set(name: FaultName, share: number): void {
    this.store.setFault(name, share);
  }

  /** Whether a fault befalls the request that is asked for. */
  befalls(name: FaultName): boolean {
    return this.random() * 100 < this.store.shareOf(name);
  }

  /** For what goes wrong in one of two ways. */
  isHeads(): boolean {
    return this.random() < 0.5;
  }
}
