-- Counts up with every change of the settings: what rests on them bears this number.
ALTER TABLE site ADD COLUMN settings_version INTEGER NOT NULL DEFAULT 1;
-- The same for the list of keywords.
ALTER TABLE site ADD COLUMN keywords_version INTEGER NOT NULL DEFAULT 1;

-- A choice of one change lives as long as the change is the same: the page, the text, what was before and what comes after.
-- The group choices stay until they are changed. What an older version stored has no mark and holds whatever the change is.
CREATE TABLE change_choices (
  item_id INTEGER NOT NULL,
  text TEXT NOT NULL,
  -- Tells the change by its texts: see core/plan/change-mark.
  mark TEXT,
  included INTEGER NOT NULL,
  PRIMARY KEY (item_id, text)
) STRICT, WITHOUT ROWID;
INSERT INTO change_choices (item_id, text, included)
  SELECT CAST(substr(scope, 8, instr(substr(scope, 8), ':') - 1) AS INTEGER), substr(scope, 8 + instr(substr(scope, 8), ':')), included
  FROM review_choices WHERE scope LIKE 'change:%';
CREATE TABLE group_choices (
  name TEXT PRIMARY KEY,
  included INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO group_choices SELECT substr(scope, 7), included FROM review_choices WHERE scope LIKE 'group:%';
DROP TABLE review_choices;

-- Long work that writes: one at a time, in the order of the ids, gone on with or marked after the process ended.
CREATE TABLE jobs (
  id INTEGER PRIMARY KEY,
  type TEXT NOT NULL CHECK (type IN ('run', 'import', 'edit', 'keywords')),
  state TEXT NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'stopped', 'failed')),
  -- What it is called for people.
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
CREATE INDEX jobs_open ON jobs (id) WHERE state IN ('waiting', 'running');

-- A name or a note that a person gave a run; and the sign of the click that made it, so that a second one makes no other.
ALTER TABLE runs ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE runs ADD COLUMN click TEXT;
-- 0 while its changes are being written down: until they all are, it is no run, and one left behind by a kill is dropped.
ALTER TABLE runs ADD COLUMN frozen INTEGER NOT NULL DEFAULT 1;
CREATE UNIQUE INDEX runs_by_click ON runs (click) WHERE click IS NOT NULL;
-- Where pages move, the ones below and in their way are looked up by the address.
CREATE INDEX run_changes_by_path ON run_changes (run_id, path_before) WHERE path_before IS NOT NULL;

-- What ended a worker thread: a line, a condition or a whole call, told by a hash of its content.
CREATE TABLE worker_deaths (
  fingerprint TEXT PRIMARY KEY,
  what TEXT NOT NULL,
  deaths INTEGER NOT NULL,
  last_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
