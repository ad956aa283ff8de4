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
  ],
  long: ["id", "kind", "address", "name", "text", "image_address", "before", "after"],
} as const satisfies Record<OutShape, readonly string[]>;
export type OutColumn = (typeof OUT_COLUMNS)[OutShape][number];

export const OUT_FORMATS = ["csv", "jsonl", "xlsx"] as const;
export type OutFileFormat = (typeof OUT_FORMATS)[number];

/** The media type of a file in each format. */
export const FILE_TYPES: Readonly<Record<OutFileFormat, string>> = {
  csv: "text/csv; charset=utf-8",
  jsonl: "application/x-ndjson",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};
