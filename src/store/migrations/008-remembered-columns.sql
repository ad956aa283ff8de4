-- What the columns of files that were brought in are, by their names in lower case.
CREATE TABLE import_columns (
  name TEXT PRIMARY KEY,
  target TEXT NOT NULL,
  -- How it writes its figures, as JSON; NULL for one without any.
  format TEXT
) STRICT, WITHOUT ROWID;

-- What was said besides of a file with such a header: its columns' names in lower case, as a JSON list.
CREATE TABLE import_headers (
  header TEXT PRIMARY KEY,
  kind TEXT NOT NULL,
  by_hand TEXT NOT NULL
) STRICT, WITHOUT ROWID;
