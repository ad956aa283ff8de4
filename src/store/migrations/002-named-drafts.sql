-- Designs of a kind put aside under a name: to come back to, and to compare with.
CREATE TABLE named_drafts (
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  design TEXT NOT NULL,
  saved_at TEXT NOT NULL,
  UNIQUE (kind, name)
) STRICT;
