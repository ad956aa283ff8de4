-- The revision of the last change that brought in more than texts, keyword and robots setting.
ALTER TABLE items ADD COLUMN content_revision INTEGER NOT NULL DEFAULT 0;
UPDATE items SET content_revision = revision;

-- A text, or the robots setting, that a person set for one item; no line replaces it.
CREATE TABLE hand_texts_wider (
  item_id INTEGER NOT NULL REFERENCES items (id) ON DELETE CASCADE,
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug', 'robots')),
  value TEXT NOT NULL,
  PRIMARY KEY (item_id, text)
) STRICT, WITHOUT ROWID;
INSERT INTO hand_texts_wider SELECT item_id, text, value FROM hand_texts;
DROP TABLE hand_texts;
ALTER TABLE hand_texts_wider RENAME TO hand_texts;

CREATE TABLE run_changes_wider (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  -- title, description, slug, robots; address: the page only moves along with one above it.
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug', 'robots', 'address')),
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  path_before TEXT,
  path_after TEXT,
  revision INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'waiting' CHECK (status IN ('waiting', 'applied', 'skipped')),
  reason TEXT
) STRICT;
INSERT INTO run_changes_wider SELECT id, run_id, item_id, text, before, after, path_before, path_after, revision, status, reason FROM run_changes;
DROP TABLE run_changes;
ALTER TABLE run_changes_wider RENAME TO run_changes;
CREATE INDEX run_changes_by_item ON run_changes (run_id, item_id);
CREATE INDEX run_changes_waiting ON run_changes (run_id, item_id) WHERE status = 'waiting';
CREATE INDEX run_changes_of_item ON run_changes (item_id);

-- One step of editing by hand, over any number of pages.
CREATE TABLE edits (
  id INTEGER PRIMARY KEY,
  label TEXT NOT NULL,
  -- set: its changes are to stand; undone: they are to be taken back.
  goal TEXT NOT NULL CHECK (goal IN ('set', 'undone')),
  status TEXT NOT NULL CHECK (status IN ('running', 'stopped', 'done')),
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE edit_changes (
  edit_id INTEGER NOT NULL REFERENCES edits (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  field TEXT NOT NULL CHECK (field IN ('title', 'description', 'slug', 'robots', 'keyword')),
  -- NULL: not by hand.
  before TEXT,
  after TEXT,
  -- Which of the two stands now; skipped: someone else changed it meanwhile.
  state TEXT NOT NULL DEFAULT 'before' CHECK (state IN ('before', 'after', 'skipped')),
  PRIMARY KEY (edit_id, item_id, field)
) STRICT, WITHOUT ROWID;
CREATE INDEX edit_changes_by_state ON edit_changes (edit_id, state);

-- Full text of the items, brought up to date before it is asked: see store/search.ts.
CREATE VIRTUAL TABLE item_search USING fts5 (
  name, path, category, keyword, title, description, hand, fields, body,
  content = '', contentless_delete = 1, tokenize = "unicode61 remove_diacritics 2"
);
CREATE TABLE item_search_state (id INTEGER PRIMARY KEY CHECK (id = 1), revision INTEGER NOT NULL, target INTEGER, after INTEGER NOT NULL) STRICT;
INSERT INTO item_search_state VALUES (1, -1, NULL, 0);

-- Filters, order and columns of the list of all pages, kept under a name.
CREATE TABLE named_views (
  name TEXT PRIMARY KEY,
  query TEXT NOT NULL,
  saved_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Keywords that the site wants to be found for, with whatever columns they were brought in with.
CREATE TABLE listed_keywords (
  id INTEGER PRIMARY KEY,
  keyword TEXT NOT NULL,
  -- Case and white space aside: a keyword is listed once.
  folded TEXT NOT NULL UNIQUE,
  volume REAL,
  columns TEXT NOT NULL DEFAULT '{}'
) STRICT;
