/** One thing of a view that stands in the address bar. */
export interface Param<T> {
  /** What it is where nothing is said, or nothing that it could be. */
  readonly first: T;
  /** `undefined` for a text that says nothing of the kind. */
  readonly read: (text: string) => T | undefined;
  readonly write: (value: T) => string;
  /** Whether a person types it letter by letter: the whole of it is one step back. */
  readonly isTyped?: boolean;
}

/** One of several words. */
export function oneOf<T extends string>(words: readonly T[], first: T): Param<T> {
  return { first, read: (text) => words.find((word) => word === text), write: (word) => word };
}

/** One of several words, or none of them. */
export function maybeOneOf<T extends string>(words: readonly T[]): Param<T | null> {
  return { first: null, read: (text) => words.find((word) => word === text), write: (word) => word ?? "" };
}

export function anyText(first = ""): Param<string> {
  return { first, read: (text) => text || undefined, write: (text) => text };
}

/** What a person types, such as words that are looked for. */
export function typedText(): Param<string> {
  return { ...anyText(), isTyped: true };
}

/** A text that has to be so. */
export function textThat(is: (text: string) => boolean, first: string): Param<string> {
  return { first, read: (text) => (is(text) ? text : undefined), write: (text) => text };
}

/** A whole number from 0 on, or none. */
export const maybeNumber: Param<number | null> = {
  first: null,
  read: (text) => (/^\d{1,15}$/.test(text) ? Number(text) : undefined),
  write: (value) => (value === null ? "" : String(value)),
};

/** A switch that is off at first. */
export const flag: Param<boolean> = {
  first: false,
  read: (text) => text === "1" || undefined,
  write: (isOn) => (isOn ? "1" : ""),
};

/** Words with spaces between. */
export function listOf<T>(
  read: (word: string) => T | undefined,
  write: (value: T) => string,
  first: readonly T[] = [],
): Param<readonly T[]> {
  return {
    first,
    read: (text) => {
      const values = text.split(" ").flatMap((word) => read(word) ?? []);
      return values.length > 0 ? values : undefined;
    },
    write: (values) => values.map(write).join(" "),
  };
}

/** How a view is read from the address bar and written into it: a link shows a colleague the same thing. */
export interface UrlCodec<V> {
  /** What a query string does not say, or says wrongly, is as at first. */
  readonly read: (query: URLSearchParams) => V;
  /** What is as at first is left out. */
  readonly write: (view: V) => string;
  /** Whether things of a view are typed letter by letter. */
  readonly isTyped: (names: readonly (keyof V)[]) => boolean;
}

/** @param always what stands in the query string even where it is as at first. */
export function urlCodec<V extends object>(
  params: { readonly [K in keyof V]-?: Param<V[K]> },
  always: readonly (keyof V)[] = [],
): UrlCodec<V> {
  const names = Object.keys(params) as (keyof V & string)[];
  const readOne = <K extends keyof V & string>(name: K, text: string | null): V[K] => {
    const { read, first } = params[name];
    return text === null ? first : (read(text) ?? first);
  };
  const written = <K extends keyof V & string>(name: K, view: V): string | null => {
    const { write, first } = params[name];
    const text = write(view[name]);
    return always.includes(name) || text !== write(first) ? text : null;
  };
  return {
    read: (query) => Object.fromEntries(names.map((name) => [name, readOne(name, query.get(name))])) as V,
    write: (view) => {
      const query = new URLSearchParams();
      for (const name of names) {
        const text = written(name, view);
        if (text !== null) query.set(name, text);
      }
      return query.toString();
    },
    isTyped: (typed) => typed.every((name) => params[name].isTyped === true),
  };
}
