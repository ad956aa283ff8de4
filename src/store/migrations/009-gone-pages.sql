-- Pages that the site has no more, with all that they had: out of every count, list and line, until they come back or are deleted for good.
CREATE TABLE gone_items (
  id INTEGER PRIMARY KEY,
  key TEXT,
  kind TEXT NOT NULL,
  path TEXT,
  name TEXT NOT NULL,
  category TEXT NOT NULL,
  category_path TEXT NOT NULL,
  keyword TEXT NOT NULL,
  title TEXT NOT NULL,
  description TEXT NOT NULL,
  slug TEXT NOT NULL,
  summary TEXT NOT NULL,
  intro TEXT NOT NULL,
  author TEXT NOT NULL,
  published TEXT NOT NULL,
  updated TEXT NOT NULL,
  price TEXT NOT NULL,
  count TEXT NOT NULL,
  robots TEXT NOT NULL,
  meta_keywords TEXT NOT NULL,
  attributes TEXT NOT NULL,
  revision INTEGER NOT NULL,
  content_revision INTEGER NOT NULL,
  -- NULL: it had none.
  body TEXT,
  -- JSON: what was by hand, [text, value] and [text, image, value] each.
  hand_texts TEXT NOT NULL,
  hand_extras TEXT NOT NULL,
  gone_at TEXT NOT NULL,
  -- The bringing in that did not have it, or that was taken back.
  import_id INTEGER NOT NULL
) STRICT;
CREATE INDEX gone_items_by_key ON gone_items (kind, key) WHERE key IS NOT NULL;
CREATE INDEX gone_items_by_path ON gone_items (path) WHERE path IS NOT NULL;
CREATE INDEX gone_items_by_import ON gone_items (import_id);

-- The highest id that a page which went had: no other page ever gets the id of one that was.
ALTER TABLE site ADD COLUMN last_item INTEGER NOT NULL DEFAULT 0;

ALTER TABLE imports ADD COLUMN returned INTEGER NOT NULL DEFAULT 0;
ALTER TABLE imports ADD COLUMN gone INTEGER NOT NULL DEFAULT 0;
ALTER TABLE imports ADD COLUMN taken_back_at TEXT;
-- Whether it is kept what it did to each page; of how many pages that was taken back, and of how many not whole.
ALTER TABLE imports ADD COLUMN tracked INTEGER NOT NULL DEFAULT 0;
ALTER TABLE imports ADD COLUMN back INTEGER NOT NULL DEFAULT 0;
ALTER TABLE imports ADD COLUMN kept INTEGER NOT NULL DEFAULT 0;

-- What a bringing in did to each page. `change` is JSON: columns by name, before and after; the body before and the hash of the one after.
CREATE TABLE import_changes (
  import_id INTEGER NOT NULL REFERENCES imports (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  what TEXT NOT NULL CHECK (what IN ('added', 'returned', 'updated', 'gone')),
  change TEXT,
  -- back: taken back; kept: it could not be, or not whole, since it was changed meanwhile.
  state TEXT NOT NULL DEFAULT 'in' CHECK (state IN ('in', 'back', 'kept')),
  PRIMARY KEY (import_id, item_id)
) STRICT, WITHOUT ROWID;

-- What it set by hand, or let go of (NULL).
CREATE TABLE import_hands (
  import_id INTEGER NOT NULL REFERENCES imports (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  text TEXT NOT NULL,
  image TEXT NOT NULL,
  before TEXT,
  after TEXT,
  PRIMARY KEY (import_id, item_id, text, image)
) STRICT, WITHOUT ROWID;

CREATE TABLE jobs_wider (
  id INTEGER PRIMARY KEY,
  type TEXT NOT NULL CHECK (type IN ('run', 'import', 'import-back', 'edit', 'keywords')),
  state TEXT NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'stopped', 'failed')),
  label TEXT NOT NULL,
  -- JSON: what the work needs to know, and what came of it.
  params TEXT NOT NULL,
  result TEXT,
  done INTEGER NOT NULL DEFAULT 0,
  total INTEGER,
  message TEXT,
  -- The window that asked for it, or what else did.
  begun_by TEXT NOT NULL,
  created_at TEXT NOT NULL,
  started_at TEXT,
  ended_at TEXT
) STRICT;
INSERT INTO jobs_wider SELECT id, type, state, label, params, result, done, total, message, begun_by, created_at, started_at, ended_at FROM jobs;
DROP TABLE jobs;
ALTER TABLE jobs_wider RENAME TO jobs;
CREATE INDEX jobs_open ON jobs (id) WHERE state IN ('waiting', 'running');
