-- How the site's interface is spoken to: its connection file, without the secret.
CREATE TABLE connection (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  description TEXT NOT NULL,
  -- 1: changes go out over it.
  writes INTEGER NOT NULL,
  saved_at TEXT NOT NULL
) STRICT;
-- Looks at the live site over the interface that came to their end. The import that a look is says what it changed.
CREATE TABLE looks (
  import_id INTEGER PRIMARY KEY REFERENCES imports (id) ON DELETE CASCADE,
  -- 1: everything was asked for, not only what changed.
  is_full INTEGER NOT NULL,
  -- When the site was asked, by its own clock: what changed after that is asked for the next time.
  asked_at TEXT NOT NULL,
  ended_at TEXT NOT NULL
) STRICT;
-- What the interface calls a page, and which version of it was seen last.
CREATE TABLE wire_pages (
  item_id INTEGER PRIMARY KEY REFERENCES items (id) ON DELETE CASCADE,
  remote TEXT NOT NULL,
  etag TEXT
) STRICT;
-- Values that stand on the site in another form than the one they would be written in: they go back as they were.
CREATE TABLE wire_forms (
  item_id INTEGER NOT NULL REFERENCES items (id) ON DELETE CASCADE,
  field TEXT NOT NULL,
  reading TEXT NOT NULL,
  form TEXT NOT NULL,
  PRIMARY KEY (item_id, field, reading)
) STRICT, WITHOUT ROWID;
-- Pages whose change was sent and is not confirmed yet: they are read before anything is sent again.
CREATE TABLE wire_sent (
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  sent_at TEXT NOT NULL,
  PRIMARY KEY (run_id, item_id)
) STRICT, WITHOUT ROWID;
-- 1: the run goes out over the interface, and what is applied was confirmed by the site.
ALTER TABLE runs ADD COLUMN over_wire INTEGER NOT NULL DEFAULT 0;
-- Why a change was skipped on a site with an interface: refused by the site, or changed there meanwhile.
ALTER TABLE run_changes ADD COLUMN trouble TEXT CHECK (trouble IN ('refused', 'changed'));
CREATE INDEX run_changes_in_trouble ON run_changes (run_id, trouble) WHERE trouble IS NOT NULL;

-- Types of work are known to the code that does them.
CREATE TABLE jobs_wider (
  id INTEGER PRIMARY KEY,
  type TEXT NOT NULL,
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
