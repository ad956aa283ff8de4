import { BUILT_IN_FIELDS } from "../../core/lines/fields";
import { type Column } from "../../core/proof/items";
import { type FieldTally, type FieldType } from "../workspace/field-tally";
import { type KindData } from "../workspace/kind-data";

/** A field that lines and conditions of a kind may use. */
export interface FieldInfo {
  readonly name: string;
  readonly meaning: string | null;
  readonly type: FieldType;
  /** Share of the kind's items that have it, from 0 to 1. */
  readonly filled: number;
  /** How many different values it has, as far as they are told apart. */
  readonly distinct: number;
  /** A real item's value. */
  readonly example: string;
}

/** A value of a field with how many items have it. */
export interface FieldValue {
  readonly value: string;
  readonly count: number;
}

/** The fields of several kinds together: each as the kind that has it most has it, filled as over all pages. */
export function fieldInfosOf(all: readonly KindData[]): FieldInfo[] {
  const total = all.reduce((sum, data) => sum + data.ids.length, 0);
  const merged = new Map<string, FieldInfo & { most: number }>();
  for (const data of all) {
    for (const info of fieldInfos(data)) {
      const items = info.filled * data.ids.length;
      const known = merged.get(info.name);
      const filled = (known?.filled ?? 0) + items / total;
      merged.set(
        info.name,
        known && known.most >= items
          ? { ...known, filled, distinct: Math.max(known.distinct, info.distinct) }
          : { ...info, filled, most: items, distinct: Math.max(known?.distinct ?? 0, info.distinct) },
      );
    }
  }
  return [...merged.values()].map(({ most: _, ...info }) => info);
}

/** Every field of a kind but the body. */
export function fieldInfos(data: KindData): FieldInfo[] {
  const meanings = new Map(BUILT_IN_FIELDS.map((field) => [field.name, field.meaning]));
  return data.fieldNames
    .filter((name) => name !== "body")
    .map((name): FieldInfo => {
      const tally = data.tally(name);
      return {
        name,
        meaning: meanings.get(name) ?? null,
        type: fieldType(name, tally),
        filled: data.ids.length === 0 ? 0 : tally.filled / data.ids.length,
        distinct: tally.distinct,
        example: tally.example.slice(0, 120),
      };
    });
}

function fieldType(name: string, tally: FieldTally): FieldType {
  return name === "category" || name === "category.path" ? "category" : tally.type;
}

/**
 * Values of a field that hold the words looked for, the most frequent first; of a category the tree instead: every path and
 * all above it, each with the items below it, in the order of the tree.
 */
export function fieldValues(
  all: readonly KindData[],
  field: string,
  search: string,
  most: number,
): { values: FieldValue[]; total: number } {
  const tree = field === "category" || field === "category.path";
  const merged = new Map<string, number>();
  for (const data of all)
    for (const { value, count } of tree ? treeCounts(data) : valueCounts(data.items.column(field)))
      merged.set(value, (merged.get(value) ?? 0) + count);
  const counts = [...merged].map(([value, count]) => ({ value, count }));
  const wanted = search.toLowerCase().trim();
  const found = counts.filter(({ value }) => wanted === "" || value.toLowerCase().includes(wanted));
  if (tree) found.sort((a, b) => a.value.localeCompare(b.value));
  else found.sort((a, b) => b.count - a.count || a.value.localeCompare(b.value, "en", { numeric: true }));
  return { values: found.slice(0, most), total: found.length };
}

function valueCounts({ codes, table }: Column): FieldValue[] {
  const counts = new Int32Array(table.values.length);
  for (let row = 0; row < codes.length; row++) counts[codes[row]!]!++;
  return table.values.flatMap((value, code) =>
    code > 0 && counts[code]! > 0 ? [{ value, count: counts[code]! }] : [],
  );
}

function treeCounts(data: KindData): FieldValue[] {
  const path = data.items.column("category.path");
  const own = valueCounts(path.table.values.length > 1 ? path : data.items.column("category"));
  const counts = new Map<string, number>();
  for (const { value, count } of own) {
    const parts = value.split(" › ");
    for (let depth = 1; depth <= parts.length; depth++) {
      const above = parts.slice(0, depth).join(" › ");
      counts.set(above, (counts.get(above) ?? 0) + count);
    }
  }
  return [...counts].map(([value, count]) => ({ value, count }));
}
