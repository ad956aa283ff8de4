"use client";
import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { roomOf } from "../../core/proof/site-room";
import { ORIGIN } from "./measured";
import { useWindowWidth } from "./use-window";

const RULES_WIDTH = 214;
/** How wide the chosen page is, in px. */
export const PANEL_WIDTH = 266;
/** With the preview at true size on top of it. */
const PREVIEW_WIDTH = 640;
/** Where the preview stands beside the rows, so much is seen of a title behind its limit, in px. */
const BEYOND = 200;
/** How wide a row is whose text has no width to keep to, in px. */
const SLUG_WIDTH = 540;

/** What there is room for beside the rows of a text. */
export interface BenchRoom {
  /** The chosen page. */
  readonly hasPage: boolean;
  /** The chosen page with the preview at true size. */
  readonly hasPreview: boolean;
  /** The columns of the Bench, as CSS has them. */
  readonly columns: string;
}

export function useBenchRoom(site: Site, text: TextName): BenchRoom {
  const wide = useWindowWidth();
  const room = roomOf(site, text);
  const rowWidth = ORIGIN + (room.unit === "px" ? room.width : SLUG_WIDTH);
  const hasPage = wide - RULES_WIDTH - PANEL_WIDTH >= rowWidth + 40;
  const hasPreview = wide - RULES_WIDTH - PREVIEW_WIDTH >= rowWidth + BEYOND;
  const page = hasPage ? ` ${hasPreview ? PREVIEW_WIDTH : PANEL_WIDTH}px` : "";
  return { hasPage, hasPreview, columns: `${RULES_WIDTH}px minmax(0, 1fr)${page}` };
}
