/** How changes are taken out: a row a page with what it has before and after, or a row a change. */
export const OUT_SHAPES = ["wide", "long"] as const;
export type OutShape = (typeof OUT_SHAPES)[number];

/** The columns of a row a page, and of a row a change; `title` is after, `title_before` what the site has. */
export const OUT_COLUMNS = {
  wide: [
    "id",
    "kind",
    "address",
    "name",
    "category",
    "keyword",
    "title_before",
    "title",
    "description_before",
    "description",
    "slug_before",
    "slug",
    "robots_before",
    "robots",
    "meta_keywords_before",
    "meta_keywords",
    "canonical_before",
    "canonical",
    "findings_before",
    "findings",
  ],
  long: ["id", "kind", "address", "name", "text", "image_address", "before", "after"],
} as const satisfies Record<OutShape, readonly string[]>;

/** A field that pages have, as a column of a row a page. */
export type FieldColumn = `field:${string}`;
export type OutColumn = (typeof OUT_COLUMNS)[OutShape][number] | FieldColumn;

/** The field that a column is of; `null` for one that every file can have. */
export function fieldOfColumn(column: string): string | null {
  return column.startsWith("field:") ? column.slice("field:".length) : null;
}

export const OUT_FORMATS = ["csv", "jsonl", "xlsx"] as const;
export type OutFileFormat = (typeof OUT_FORMATS)[number];

/** The media type of a file in each format. */
export const FILE_TYPES: Readonly<Record<OutFileFormat, string>> = {
  csv: "text/csv; charset=utf-8",
  jsonl: "application/x-ndjson",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};
