-- One draft a kind, as it is typed.
CREATE TABLE drafts (
  kind TEXT NOT NULL PRIMARY KEY,
  design TEXT NOT NULL,
  version INTEGER NOT NULL,
  saved_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
INSERT INTO drafts SELECT kind, design, version, saved_at FROM designs WHERE state = 'draft';

-- Designs of a kind as they were at one moment: saved under a name, or by a run.
CREATE TABLE versions (
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  design TEXT NOT NULL,
  saved_at TEXT NOT NULL,
  run INTEGER REFERENCES runs (id) ON DELETE CASCADE,
  UNIQUE (kind, name)
) STRICT;
INSERT INTO versions (id, kind, name, design, saved_at) SELECT id, kind, name, design, saved_at FROM named_drafts;
-- A name that a draft has already gets a sign of its own behind it, so that nothing is lost.
INSERT INTO versions (kind, name, design, saved_at)
  SELECT kind, iif(EXISTS (SELECT 1 FROM named_drafts AS named WHERE named.kind = designs.kind AND named.name = 'Kept on ' || substr(designs.saved_at, 1, 10)),
    'Kept at ' || saved_at || ' ' || hex(randomblob(3)), 'Kept on ' || substr(saved_at, 1, 10)), design, saved_at
  FROM designs WHERE state = 'kept';
INSERT INTO versions (kind, name, design, saved_at, run)
  SELECT of_kind.key, 'Run ' || runs.id || iif(runs.name = '', '', ': ' || runs.name) || iif(EXISTS (
      SELECT 1 FROM named_drafts AS named
      WHERE named.kind = of_kind.key AND named.name = 'Run ' || runs.id || iif(runs.name = '', '', ': ' || runs.name)
    ), ' ' || hex(randomblob(3)), ''), of_kind.value, runs.created_at, runs.id
  FROM runs, json_each(iif(json_valid(runs.design), runs.design, '{}')) AS of_kind
  WHERE runs.type = 'apply' AND runs.frozen = 1 AND of_kind.type = 'object' AND EXISTS (
    SELECT 1 FROM run_changes JOIN (SELECT id, kind FROM items UNION ALL SELECT id, kind FROM gone_items) AS page
      ON page.id = run_changes.item_id
    WHERE run_changes.run_id = runs.id AND page.kind = of_kind.key
  );
DROP TABLE designs;
DROP TABLE named_drafts;
