"use client";
import { anyText, oneOf, urlCodec, useUrlView } from "../shell/url-view";

export const ORIGINS = ["all", "run", "hand", "file"] as const;
export const STATES = ["holds", "faulty", "retired"] as const;

/** What the address bar holds of the redirects. */
export interface AddressesView {
  readonly search: string;
  readonly origin: (typeof ORIGINS)[number];
  readonly state: (typeof STATES)[number];
  /** The path of which it is asked where it leads. */
  readonly path: string;
}

const codec = urlCodec<AddressesView>({
  search: anyText(),
  origin: oneOf(ORIGINS, "all"),
  state: oneOf(STATES, "holds"),
  path: anyText(),
});

export function useAddressesView(): [AddressesView, (change: Partial<AddressesView>) => void] {
  return useUrlView("/addresses", codec);
}
