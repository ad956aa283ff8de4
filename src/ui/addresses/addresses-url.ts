"use client";
import { type RedirectAge, REDIRECT_AGES } from "../../core/addresses/redirect-forms";
import { LINK_FINDINGS } from "../../core/links/finding-names";
import { anyText, maybeNumber, oneOf, textThat, typedText, urlCodec } from "../shell/url-codec";
import { useUrlView } from "../shell/url-view";

export const ORIGINS = ["all", "run", "hand", "file"] as const;
export const STATUSES = ["all", "301", "302", "307", "308", "410"] as const;
export const STATES = ["holds", "faulty", "retired"] as const;

export const FACES = ["moves", "redirects", "links"] as const;
export const SHOWN_MOVES = ["all", "included", "held"] as const;
export const SHOWN_LINKS = ["all", ...LINK_FINDINGS, "mended", "orphans"] as const;

/** What the address bar holds of the redirects, and of the links. */
export interface AddressesView {
  readonly face: (typeof FACES)[number];
  readonly search: string;
  readonly origin: (typeof ORIGINS)[number];
  readonly state: (typeof STATES)[number];
  readonly status: (typeof STATUSES)[number];
  readonly age: RedirectAge;
  /** The path of which it is asked where it leads. */
  readonly path: string;
  readonly moves: (typeof SHOWN_MOVES)[number];
  /** The folder that is looked into, with a slash at its end. */
  readonly folder: string;
  readonly links: (typeof SHOWN_LINKS)[number];
  /** Words of moves, or links, that are looked for. */
  readonly words: string;
  /** Only links on a page, or to it, by its number. */
  readonly on: number | null;
  readonly to: number | null;
  /** Only pages of one kind, `""` for all. */
  readonly kind: string;
}

const codec = urlCodec<AddressesView>({
  search: typedText(),
  origin: oneOf(ORIGINS, "all"),
  state: oneOf(STATES, "holds"),
  status: oneOf(STATUSES, "all"),
  age: oneOf(REDIRECT_AGES, "any"),
  path: typedText(),
  face: oneOf(FACES, "moves"),
  moves: oneOf(SHOWN_MOVES, "all"),
  folder: textThat((text) => /^\/(.*\/)?$/.test(text), "/"),
  links: oneOf(SHOWN_LINKS, "broken"),
  words: typedText(),
  on: maybeNumber,
  to: maybeNumber,
  kind: anyText(),
});

export function useAddressesView(): [AddressesView, (change: Partial<AddressesView>) => void] {
  return useUrlView("/addresses", codec);
}
