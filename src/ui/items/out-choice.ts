import type { CallInput } from "../../server/api/contract";
import * as z from "zod";
import {
  type FieldColumn,
  fieldOfColumn,
  OUT_COLUMNS,
  OUT_FORMATS,
  OUT_SHAPES,
  type OutColumn,
  type OutShape,
} from "../../core/items/taken-out";
import { type ItemsView, queryOf } from "./items-url";

/** What a file can be of: the list with its own columns, or a shape whose columns are chosen. */
export const OUT_CHOICES = ["list", ...OUT_SHAPES] as const;
export type OutChoiceShape = (typeof OUT_CHOICES)[number];

const columns = z.record(z.string(), z.string().nullable());
const choiceSchema = z.object({
  shape: z.enum(OUT_CHOICES),
  format: z.enum(OUT_FORMATS),
  onlyDiffering: z.boolean(),
  fullAddresses: z.boolean(),
  exact: z.boolean(),
  /** Of each shape the columns that the file has, by the names that it has for them. */
  columns: z.object({ wide: columns, long: columns }),
});
/** How pages are taken out, as it was chosen. */
export type OutChoice = z.infer<typeof choiceSchema>;

/** What is chosen at first: what tells pages apart, and the texts that the drafts change. */
export const FIRST_OUT: OutChoice = {
  shape: "wide",
  format: "csv",
  onlyDiffering: true,
  fullAddresses: false,
  exact: false,
  columns: {
    wide: named(["id", "address", "title_before", "title", "description_before", "description"]),
    long: named([...OUT_COLUMNS.long]),
  },
};

function named(own: readonly OutColumn[]): Record<string, string> {
  return Object.fromEntries(own.map((column) => [column, column]));
}

/** The choice that was kept; what cannot be read is as at first. */
export function readOutChoice(kept: string | null): OutChoice {
  try {
    return choiceSchema.parse(JSON.parse(kept ?? ""));
  } catch {
    return FIRST_OUT;
  }
}

/** The columns that a file of a shape can have: those that every site has, then the fields that were added. */
export function columnsOfShape(shape: OutShape, chosen: Readonly<Record<string, unknown>>): readonly OutColumn[] {
  return [...OUT_COLUMNS[shape], ...Object.keys(chosen).filter(isField)];
}

function isField(column: string): column is FieldColumn {
  return fieldOfColumn(column) !== null;
}

/** What a column of the list is in a file: what stands in its cells. */
const OF_LIST: Readonly<Record<string, readonly OutColumn[]>> = {
  kind: ["kind"],
  name: ["name", "address"],
  keyword: ["keyword"],
  title: ["title_before", "title"],
  description: ["description_before", "description"],
  slug: ["slug_before", "slug"],
  robots: ["robots_before", "robots"],
};

/** The columns of the list as it stands, in their order, behind what tells pages apart. */
export function columnsOfList({ columns, side }: Pick<ItemsView, "columns" | "side">): readonly OutColumn[] {
  const findings: OutColumn = side === "live" ? "findings_before" : "findings";
  const own = columns.flatMap((id) => (id === "findings" ? [findings] : isField(id) ? [id] : (OF_LIST[id] ?? [])));
  return [...new Set<OutColumn>(["id", ...own])];
}

/** A column with a name for it in the file: a field goes by its own where no column that every site has is called so. */
export function namedOnce(column: OutColumn): { column: OutColumn; name: string } {
  const field = fieldOfColumn(column);
  const isTaken = (OUT_COLUMNS.wide as readonly string[]).includes(field ?? "");
  return { column, name: field === null ? column : isTaken ? `field ${field}` : field };
}

/** The columns of the file in their order, or what is wrong with them. */
export function namesOf(
  { shape, columns: all }: OutChoice,
  view: Pick<ItemsView, "columns" | "side">,
): {
  readonly columns: readonly { readonly column: OutColumn; readonly name: string }[];
  readonly wrong: string | null;
} {
  if (shape === "list") return { columns: columnsOfList(view).map(namedOnce), wrong: null };
  const chosen = columnsOfShape(shape, all[shape]).flatMap((column: OutColumn) => {
    const name = all[shape][column];
    return name === null || name === undefined ? [] : [{ column, name: name.trim() }];
  });
  const names = chosen.map(({ name }) => name);
  const twice = names.find((name, i) => names.indexOf(name) !== i);
  if (chosen.length === 0) return { columns: chosen, wrong: "Choose at least one column." };
  if (names.includes("")) return { columns: chosen, wrong: "A column of the file needs a name." };
  return { columns: chosen, wrong: twice === undefined ? null : `Two columns are called “${twice}”.` };
}

/** What the server is asked for, as JSON. The list as it stands has a row for each of its pages, once. */
export function outQuery(choice: OutChoice, view: ItemsView): CallInput<"exchange.takeOutPages"> {
  const { columns: _all, shape, ...how } = choice;
  const asked = {
    ...how,
    shape: shape === "list" ? "wide" : shape,
    onlyDiffering: shape !== "list" && choice.onlyDiffering,
    query: { ...queryOf(view), group: null },
    columns: namesOf(choice, view).columns,
  };
  return asked as CallInput<"exchange.takeOutPages">;
}
