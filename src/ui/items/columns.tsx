"use client";
import { type ReactNode } from "react";
import { type Side } from "../../core/checks/findings";
import { kindWord, type TextName, TEXTS } from "../../core/design/kinds";
import type { CellField } from "../../core/edits/hand-text";
import { type Site } from "../../core/design/design";
import { roomOf } from "../../core/proof/site-room";
import { SLUG_CHARACTER } from "../proof/true-size";
import { type ListedItem } from "../../server/items/listed-item";
import {
  type CellView,
  FieldCell,
  FindingsCell,
  findingsInWords,
  KeywordCell,
  NameCell,
  RobotsCell,
  TextCell,
} from "./cells";
import { type ColumnSort, fieldSorts, FINDING_SORTS, textSorts } from "./column-sorts";
import { type Look } from "./items-url";

/** A column of the list of all pages: all that there is to say of it. */
export interface ItemColumn {
  readonly id: string;
  readonly label: string;
  /** Px. */
  readonly width: number;
  /** Where the list has more room than its columns need, it is so wide at the most, in px. */
  readonly most?: number;
  /** The orders that presses of its heading put the list in, one after the other. */
  readonly sorts: readonly ColumnSort[];
  /** What can be set by hand in its cells. */
  readonly edits: CellField | null;
  readonly cell: (view: CellView) => ReactNode;
  /** What a cell's value is outside of the list. */
  readonly copy: (item: ListedItem, side: Side) => string;
}

/** Px in which titles of a usual length stand whole. */
const MOST_TITLE = 600;

const TEXT_LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };

/** The columns that every site has, in the order in which they are offered. */
export function builtInColumns(site: Site, look: Look): ItemColumn[] {
  const textWidth = (text: TextName) => {
    if (look === "plain") return text === "title" ? 370 : text === "description" ? 440 : 220;
    const { width, unit } = roomOf(site, text);
    return Math.round(unit === "px" ? width : width * SLUG_CHARACTER * 0.6) + 120;
  };
  return [
    {
      id: "name",
      label: "Page",
      width: 230,
      sorts: fieldSorts("name"),
      edits: null,
      cell: (view) => <NameCell {...view} />,
      copy: ({ name }) => name,
    },
    {
      id: "kind",
      label: "Kind",
      width: 90,
      sorts: [],
      edits: null,
      cell: ({ item }) => <span className="text-soft">{kindWord(site, item.kind, 1)}</span>,
      copy: ({ kind }) => kindWord(site, kind, 1),
    },
    {
      id: "keyword",
      label: "Focus keyword",
      width: 140,
      sorts: fieldSorts("keyword"),
      edits: "keyword",
      cell: (view) => <KeywordCell {...view} />,
      copy: ({ keyword }) => keyword,
    },
    ...TEXTS.map((text): ItemColumn => ({
      id: text,
      label: TEXT_LABELS[text],
      width: textWidth(text),
      ...(text === "title" && look === "plain" && { most: MOST_TITLE }),
      sorts: textSorts(text),
      edits: text,
      cell: (view) => <TextCell {...view} text={text} />,
      copy: ({ texts }, side) => texts[text][side],
    })),
    {
      id: "robots",
      label: "Robots",
      width: 130,
      sorts: [],
      edits: "robots",
      cell: (view) => <RobotsCell {...view} />,
      copy: ({ robots }, side) => robots[side],
    },
    {
      id: "findings",
      label: "Findings",
      width: 200,
      sorts: FINDING_SORTS,
      edits: null,
      cell: (view) => <FindingsCell {...view} />,
      copy: findingsInWords,
    },
  ];
}

/** The column of a field that items have, by its id `field:` and the field's name. */
export function fieldColumn(id: string): ItemColumn {
  const name = id.slice("field:".length);
  return {
    id,
    label: name.replaceAll("_", " "),
    width: 140,
    sorts: fieldSorts(name),
    edits: null,
    cell: (view) => <FieldCell {...view} name={name} />,
    copy: ({ fields }) => fields[name] ?? "",
  };
}

/** The columns that a view shows, in its order. */
export function shownColumns(ids: readonly string[], site: Site, look: Look): ItemColumn[] {
  const known = new Map(builtInColumns(site, look).map((column) => [column.id, column]));
  return ids.flatMap((id) => (id.startsWith("field:") ? [fieldColumn(id)] : known.has(id) ? [known.get(id)!] : []));
}
