import { type Kind, TEXTS, type TextName } from "../core/design/kinds";
import { fieldName } from "../core/lines/fields";
import { type ItemRecord } from "../core/proof/items";

/** A page of the application's own export: its fields as lines read them, and its texts by hand. */
export interface ExportedPage {
  readonly kind: Kind | null;
  readonly fields: ItemRecord;
  readonly hand: Partial<Record<TextName, string>>;
  /** `""` for none. */
  readonly address: string;
}

const COLUMNS = ["id", "kind", "address", "by_hand", "attributes", "category_path"];

/** Whether records are rows of the application's own export. */
export function isOwnExport(record: ItemRecord): boolean {
  return COLUMNS.every((name) => Object.hasOwn(record, name) || (name === "attributes" && hasAttributes(record)));
}

/** JSON Lines are read with their attributes taken apart already. */
function hasAttributes(record: ItemRecord): boolean {
  return Object.keys(record).some((name) => name.startsWith("attributes."));
}

/** A row of the application's own export. */
export function readExported(record: ItemRecord): ExportedPage {
  const harmless = new Set(textOf(record["made_harmless"]).split(" "));
  const own = (name: string) => {
    const value = textOf(record[name]);
    return harmless.has(name) && value.startsWith("'") ? value.slice(1) : value;
  };
  const fields: Record<string, unknown> = {};
  for (const name of Object.keys(record)) {
    if (
      [
        "attributes",
        "by_hand",
        "hand_texts",
        "meta_keywords",
        "canonical",
        "made_harmless",
        "kind",
        "address",
        "category_path",
      ].includes(name)
    )
      continue;
    if (name.startsWith("attributes.")) fields[fieldName(name.slice("attributes.".length))] = record[name];
    else fields[name] = typeof record[name] === "number" ? record[name] : own(name);
  }
  for (const [name, value] of Object.entries(jsonObject(own("attributes")))) fields[fieldName(name)] = value;
  const path = own("category_path");
  fields["category.path"] = path;
  fields["category.parent"] = path.split(" › ").at(-2) ?? "";
  const byHand = own("by_hand").split(" ");
  const other = jsonObject(own("hand_texts"));
  const hand = Object.fromEntries(
    TEXTS.filter((text) => byHand.includes(text)).map((text) => [text, textOf(other[text] ?? own(text))]),
  );
  return { kind: own("kind") || null, fields, hand, address: own("address") };
}

function textOf(value: unknown): string {
  return typeof value === "string" ? value : typeof value === "number" ? String(value) : "";
}

function jsonObject(text: string): Record<string, unknown> {
  if (!text.startsWith("{")) return {};
  try {
    return JSON.parse(text) as Record<string, unknown>;
  } catch {
    return {};
  }
}
