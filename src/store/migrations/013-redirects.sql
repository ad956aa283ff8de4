-- Redirects come from runs, from a person and from files. What a person or a file gave is theirs until a person retires it; what a run
-- made needless is retired by that run. All that hold are folded whenever they are asked for.
CREATE TABLE redirects_wider (
  id INTEGER PRIMARY KEY,
  run_id INTEGER REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER,
  from_path TEXT NOT NULL,
  -- Empty where it is gone for good.
  to_path TEXT NOT NULL,
  status INTEGER NOT NULL DEFAULT 301,
  -- The run that made it needless: its page moved on or came back.
  retired_by INTEGER REFERENCES runs (id),
  -- 1: a folder, with all below it.
  prefix INTEGER NOT NULL DEFAULT 0,
  origin TEXT NOT NULL DEFAULT 'run' CHECK (origin IN ('run', 'hand', 'file')),
  created_at TEXT,
  -- When a person retired it.
  retired_at TEXT
) STRICT;
INSERT INTO redirects_wider (id, run_id, item_id, from_path, to_path, status, retired_by, created_at)
  SELECT redirects.id, run_id, item_id, from_path, to_path, redirects.status, retired_by, coalesce(runs.ended_at, runs.created_at)
  FROM redirects JOIN runs ON runs.id = run_id;
DROP TABLE redirects;
ALTER TABLE redirects_wider RENAME TO redirects;
CREATE INDEX redirects_by_run ON redirects (run_id);
CREATE INDEX redirects_by_item ON redirects (item_id) WHERE retired_by IS NULL;
CREATE INDEX redirects_by_source ON redirects (from_path) WHERE retired_by IS NULL;
-- Counts up with every change of the redirects that is no run's.
ALTER TABLE site ADD COLUMN redirects_version INTEGER NOT NULL DEFAULT 1;
