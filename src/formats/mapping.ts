import { type Target, TARGETS } from "../core/design/import-targets";
import { type Kind, type KindInfo } from "../core/design/kinds";
import { fieldName } from "../core/lines/fields";
import { type FieldFormat } from "../core/text/figures";

/** For each column of the file, in order, what it becomes; and the kind where no column says it. */
export interface Mapping {
  readonly targets: readonly Target[];
  readonly kind: Kind;
  /** How each column writes its figures, `null` for one without any. */
  readonly formats?: readonly (FieldFormat | null)[];
  /** Kinds that the site gets before the first row: new ones, and known ones with other words for them. */
  readonly kinds?: readonly KindInfo[];
}

/** What is wrong with a mapping as a whole, in words, or `null`. */
export function mappingError(mapping: Mapping, header: readonly string[]): string | null {
  if (mapping.targets.length !== header.length)
    return `The mapping names ${mapping.targets.length} columns, the file has ${header.length}. Look at the file again.`;
  for (const target of TARGETS) {
    if (target === "attribute" || target === "skip") continue;
    const columns = header.filter((_, i) => mapping.targets[i] === target);
    if (columns.length > 1)
      return `Two columns are mapped to ${target}: ${columns.map((c) => `“${c}”`).join(" and ")}. Choose one of them.`;
  }
  if (!mapping.targets.includes("id") && !mapping.targets.includes("address"))
    return "No column is mapped to id or address, so rows cannot be matched to pages. Map one of them.";
  return null;
}

/**
 * The names that the attributes of a file get, one for each column: where two columns come to the same name, the second gets a number.
 *
 * @example attributeNames(["Sold by", "sold_by"]) // ["sold_by", "sold_by_2"]
 */
export function attributeNames(header: readonly string[]): string[] {
  const taken = new Set<string>();
  return header.map((heading) => {
    const name = fieldName(heading) || "column";
    let own = name;
    for (let number = 2; taken.has(own); number++) own = `${name}_${number}`;
    taken.add(own);
    return own;
  });
}

/** Columns that get a number because another has their name already, in words. */
export function sameNames(header: readonly string[], mapping: Pick<Mapping, "targets">): string[] {
  const names = attributeNames(header);
  return header.flatMap((heading, i) => {
    if (mapping.targets[i] !== "attribute" || names[i] === (fieldName(heading) || "column")) return [];
    const first = header.findIndex((other) => (fieldName(other) || "column") === (fieldName(heading) || "column"));
    return [`“${heading}” and “${header[first]}” have the same name; this one is {${names[i]}}.`];
  });
}

/** The field that a column becomes, `null` for one that becomes none. */
export function fieldOfColumn(
  header: readonly string[],
  mapping: Pick<Mapping, "targets">,
  column: number,
): string | null {
  const target = mapping.targets[column]!;
  if (target === "attribute") return attributeNames(header)[column]!;
  return FIELDS.has(target) ? target : null;
}

const FIELDS: ReadonlySet<Target> = new Set<Target>([
  "id",
  "name",
  "category",
  "category.path",
  "keyword",
  "slug",
  "summary",
  "intro",
  "body",
  "author",
  "published",
  "updated",
  "price",
  "count",
  "robots",
]);
