import { type ExtraName, type TextName, TEXTS } from "./kinds";

/** What of a page may be by hand, one of each. */
export type HandName = TextName | "robots";
export const HAND_NAMES: readonly HandName[] = [...TEXTS, "robots"];

/** An extra text by hand: of an image with its address as it stands in the body, `""` for meta keywords. */
export interface HandExtra {
  readonly text: ExtraName;
  readonly image: string;
  readonly value: string;
}

/** What a page has by hand. */
export interface Hands {
  readonly texts: Readonly<Partial<Record<HandName, string>>>;
  readonly extras: readonly HandExtra[];
}

export const NO_HANDS: Hands = { texts: {}, extras: [] };
