import { type KnownFields } from "../../core/lines/parse";
import type { FieldInfo } from "../../server/bench/field-infos";

/** The fields as the parser asks for them; `undefined` as long as they are not known. */
export function knownFields(infos: readonly FieldInfo[]): KnownFields | undefined {
  if (infos.length === 0) return undefined;
  const names = new Set([...infos.map((info) => info.name), "body"]);
  return { has: (name) => names.has(name), names: () => names };
}

/** How many pages have a field, in words. */
export const percent = (share: number) =>
  `${share === 1 ? "all" : share > 0 && share < 0.01 ? "under 1 %" : `${Math.round(share * 100)} %`} have it`;
