-- Pages as visitors get them: what was met the last time, held against what was meant then.
CREATE TABLE live_pages (
  item_id INTEGER PRIMARY KEY REFERENCES items (id) ON DELETE CASCADE,
  checked_at TEXT NOT NULL,
  -- JSON: hops, trouble, what the page says, and what became of title and description.
  met TEXT NOT NULL
) STRICT;
CREATE TABLE live_findings (
  finding TEXT NOT NULL,
  item_id INTEGER NOT NULL REFERENCES live_pages (item_id) ON DELETE CASCADE,
  PRIMARY KEY (finding, item_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX live_findings_by_item ON live_findings (item_id);
-- What the theme adds to texts, where the surfaces were made narrower for it.
CREATE TABLE live_taken (
  text TEXT NOT NULL,
  added TEXT NOT NULL,
  PRIMARY KEY (text, added)
) STRICT, WITHOUT ROWID;
-- When a run that was written down is to go out by itself; empty: when somebody says so.
ALTER TABLE runs ADD COLUMN due_at TEXT;
-- Counts up with every page that is looked at on the live site.
ALTER TABLE site ADD COLUMN live_version INTEGER NOT NULL DEFAULT 1;
