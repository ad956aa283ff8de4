CREATE TABLE site (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  settings TEXT NOT NULL,
  -- Counts up with every transaction that touches items; an item bears the number of its last change.
  revision INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE items (
  id INTEGER PRIMARY KEY,
  key TEXT,
  kind TEXT NOT NULL,
  path TEXT,
  name TEXT NOT NULL DEFAULT '',
  category TEXT NOT NULL DEFAULT '',
  category_path TEXT NOT NULL DEFAULT '',
  keyword TEXT NOT NULL DEFAULT '',
  title TEXT NOT NULL DEFAULT '',
  description TEXT NOT NULL DEFAULT '',
  slug TEXT NOT NULL DEFAULT '',
  summary TEXT NOT NULL DEFAULT '',
  intro TEXT NOT NULL DEFAULT '',
  author TEXT NOT NULL DEFAULT '',
  published TEXT NOT NULL DEFAULT '',
  updated TEXT NOT NULL DEFAULT '',
  price TEXT NOT NULL DEFAULT '',
  count TEXT NOT NULL DEFAULT '',
  robots TEXT NOT NULL DEFAULT '',
  attributes TEXT NOT NULL DEFAULT '{}',
  revision INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE UNIQUE INDEX items_by_key ON items (kind, key) WHERE key IS NOT NULL;
CREATE INDEX items_by_path ON items (path) WHERE path IS NOT NULL;
CREATE INDEX items_by_kind ON items (kind, id);
CREATE INDEX items_by_revision ON items (revision);

CREATE TABLE bodies (
  item_id INTEGER PRIMARY KEY REFERENCES items (id) ON DELETE CASCADE,
  body TEXT NOT NULL
) STRICT;

-- A text that a person wrote for one item; no line replaces it.
CREATE TABLE hand_texts (
  item_id INTEGER NOT NULL REFERENCES items (id) ON DELETE CASCADE,
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug')),
  value TEXT NOT NULL,
  PRIMARY KEY (item_id, text)
) STRICT, WITHOUT ROWID;

CREATE TABLE designs (
  state TEXT NOT NULL CHECK (state IN ('draft', 'kept')),
  kind TEXT NOT NULL,
  design TEXT NOT NULL,
  version INTEGER NOT NULL,
  saved_at TEXT NOT NULL,
  PRIMARY KEY (state, kind)
) STRICT, WITHOUT ROWID;

CREATE TABLE runs (
  id INTEGER PRIMARY KEY,
  type TEXT NOT NULL CHECK (type IN ('apply', 'take-back')),
  of_run INTEGER REFERENCES runs (id),
  -- ready: frozen, nothing done; running; stopped: by a person or an end of the process; done.
  status TEXT NOT NULL CHECK (status IN ('ready', 'running', 'stopped', 'done')),
  taken_back_by INTEGER REFERENCES runs (id),
  note TEXT NOT NULL,
  design TEXT NOT NULL,
  created_at TEXT NOT NULL,
  ended_at TEXT
) STRICT;

CREATE TABLE run_changes (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  -- title, description, slug; address: the page only moves along with one above it.
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug', 'address')),
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  path_before TEXT,
  path_after TEXT,
  revision INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'waiting' CHECK (status IN ('waiting', 'applied', 'skipped')),
  reason TEXT
) STRICT;
CREATE INDEX run_changes_by_item ON run_changes (run_id, item_id);
CREATE INDEX run_changes_waiting ON run_changes (run_id, item_id) WHERE status = 'waiting';

CREATE TABLE redirects (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  from_path TEXT NOT NULL,
  to_path TEXT NOT NULL,
  status INTEGER NOT NULL DEFAULT 301,
  -- The run that made it needless: its page moved on or came back.
  retired_by INTEGER REFERENCES runs (id)
) STRICT;
CREATE INDEX redirects_by_run ON redirects (run_id);
CREATE INDEX redirects_by_target ON redirects (to_path) WHERE retired_by IS NULL;
CREATE INDEX redirects_by_source ON redirects (from_path) WHERE retired_by IS NULL;

CREATE TABLE imports (
  id INTEGER PRIMARY KEY,
  file TEXT NOT NULL,
  started_at TEXT NOT NULL,
  ended_at TEXT,
  status TEXT NOT NULL CHECK (status IN ('running', 'done', 'stopped', 'failed')),
  added INTEGER NOT NULL DEFAULT 0,
  updated INTEGER NOT NULL DEFAULT 0,
  unchanged INTEGER NOT NULL DEFAULT 0,
  refused INTEGER NOT NULL DEFAULT 0,
  message TEXT
) STRICT;

CREATE TABLE refused_rows (
  import_id INTEGER NOT NULL REFERENCES imports (id) ON DELETE CASCADE,
  line INTEGER NOT NULL,
  reason TEXT NOT NULL,
  content TEXT NOT NULL
) STRICT;
CREATE INDEX refused_rows_by_import ON refused_rows (import_id);

-- What a person chose in the review: a group ('group:worse') or one change ('change:12:title') in (1) or out (0).
CREATE TABLE review_choices (
  scope TEXT PRIMARY KEY,
  included INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
