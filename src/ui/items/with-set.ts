import { slugRulesOf } from "../../core/slugs/site-rules";
import { limitsOf, type Site } from "../../core/design/design";
import { readRobots } from "../../core/design/robots";
import { type CellField, tidyByHand } from "../../core/edits/hand-text";
import { fitsSurface } from "../../core/measure/wrap";
import type { ListedItem } from "../../server/items/listed-item";
import { roomOf } from "../../core/proof/site-room";
import { widthOf } from "../../core/measure/running-width";

/** A page with a value that was just set by hand on it. */
export function withSet(site: Site, item: ListedItem, field: CellField, raw: string): ListedItem {
  const tidied = tidyByHand(field, raw, slugRulesOf(site));
  if (!("value" in tidied)) return item;
  const { value } = tidied;
  if (field === "keyword") return { ...item, keyword: value };
  if (field === "robots")
    return { ...item, robots: { ...item.robots, draft: readRobots(value), from: "hand", rule: null } };
  const draftFits = field === "slug" || limitsOf(site, field).surfaces.every((surface) => fitsSurface(surface, value));
  return {
    ...item,
    texts: {
      ...item.texts,
      [field]: {
        ...item.texts[field],
        draft: value,
        draftSize: widthOf(roomOf(site, field).surface, field === "slug", value),
        draftFits,
        from: "hand",
      },
    },
  };
}
