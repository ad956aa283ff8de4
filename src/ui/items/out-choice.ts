import type { CallInput } from "../../server/api/contract";
import * as z from "zod";
import { type ItemQuery } from "../../core/items/query";
import { OUT_COLUMNS, OUT_FORMATS, OUT_SHAPES, type OutColumn } from "../../core/items/taken-out";

const columns = z.record(z.string(), z.string().nullable());
const choiceSchema = z.object({
  shape: z.enum(OUT_SHAPES),
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

/** The columns of the file in their order, or what is wrong with them. */
export function namesOf({ shape, columns: all }: OutChoice): {
  readonly columns: readonly { readonly column: OutColumn; readonly name: string }[];
  readonly wrong: string | null;
} {
  const chosen = OUT_COLUMNS[shape].flatMap((column: OutColumn) => {
    const name = all[shape][column];
    return name === null || name === undefined ? [] : [{ column, name: name.trim() }];
  });
  const names = chosen.map(({ name }) => name);
  const twice = names.find((name, i) => names.indexOf(name) !== i);
  if (chosen.length === 0) return { columns: chosen, wrong: "Choose at least one column." };
  if (names.includes("")) return { columns: chosen, wrong: "A column of the file needs a name." };
  return { columns: chosen, wrong: twice === undefined ? null : `Two columns are called “${twice}”.` };
}

/** What the server is asked for, as JSON. */
export function outQuery(choice: OutChoice, query: ItemQuery): CallInput<"exchange.takeOutPages"> {
  const { columns: _all, ...how } = choice;
  const asked = { ...how, query: { ...query, group: null }, columns: namesOf(choice).columns };
  return asked as CallInput<"exchange.takeOutPages">;
}
