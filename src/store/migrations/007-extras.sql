-- The meta keywords that the site has.
ALTER TABLE items ADD COLUMN meta_keywords TEXT NOT NULL DEFAULT '';

-- An extra text that a person wrote: a page's meta keywords, or what is said of one of its images; no line replaces it.
CREATE TABLE hand_extras (
  item_id INTEGER NOT NULL REFERENCES items (id) ON DELETE CASCADE,
  text TEXT NOT NULL CHECK (text IN ('alt', 'keywords')),
  -- The address of the image as it stands in the body, '' for what is no image's.
  image TEXT NOT NULL,
  value TEXT NOT NULL,
  PRIMARY KEY (item_id, text, image)
) STRICT, WITHOUT ROWID;

CREATE TABLE run_changes_wider (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  -- title, description, slug, robots, keywords; alt: of one image; address: the page only moves along with one above it.
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug', 'robots', 'keywords', 'alt', 'address')),
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  path_before TEXT,
  path_after TEXT,
  -- Of an image: which of the body's it is, from 1, its address as it stands there, and its tag as it was before the run.
  part INTEGER,
  image TEXT,
  tag TEXT,
  revision INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'waiting' CHECK (status IN ('waiting', 'applied', 'skipped')),
  reason TEXT
) STRICT;
INSERT INTO run_changes_wider (id, run_id, item_id, text, before, after, path_before, path_after, revision, status, reason)
  SELECT id, run_id, item_id, text, before, after, path_before, path_after, revision, status, reason FROM run_changes;
DROP TABLE run_changes;
ALTER TABLE run_changes_wider RENAME TO run_changes;
CREATE INDEX run_changes_by_run ON run_changes (run_id);
CREATE INDEX run_changes_by_item ON run_changes (item_id, run_id);
CREATE INDEX run_changes_waiting ON run_changes (run_id, item_id) WHERE status = 'waiting';
ALTER TABLE runs ADD COLUMN alts INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN keywords INTEGER NOT NULL DEFAULT 0;

CREATE TABLE edit_changes_wider (
  edit_id INTEGER NOT NULL REFERENCES edits (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  field TEXT NOT NULL CHECK (field IN ('title', 'description', 'slug', 'robots', 'keyword', 'keywords', 'alt')),
  image TEXT NOT NULL DEFAULT '',
  -- NULL: not by hand.
  before TEXT,
  after TEXT,
  -- Which of the two stands now; skipped: someone else changed it meanwhile.
  state TEXT NOT NULL DEFAULT 'before' CHECK (state IN ('before', 'after', 'skipped')),
  PRIMARY KEY (edit_id, item_id, field, image)
) STRICT, WITHOUT ROWID;
INSERT INTO edit_changes_wider (edit_id, item_id, field, before, after, state)
  SELECT edit_id, item_id, field, before, after, state FROM edit_changes;
DROP TABLE edit_changes;
ALTER TABLE edit_changes_wider RENAME TO edit_changes;
CREATE INDEX edit_changes_by_state ON edit_changes (edit_id, state);

-- A person's word on one image's change is of that image.
CREATE TABLE change_choices_wider (
  item_id INTEGER NOT NULL,
  text TEXT NOT NULL,
  -- Of an image: which of the body's it is, from 1; 0 for what is no image's.
  part INTEGER NOT NULL DEFAULT 0,
  mark TEXT,
  included INTEGER NOT NULL,
  PRIMARY KEY (item_id, text, part)
) STRICT, WITHOUT ROWID;
INSERT INTO change_choices_wider (item_id, text, mark, included) SELECT item_id, text, mark, included FROM change_choices;
DROP TABLE change_choices;
ALTER TABLE change_choices_wider RENAME TO change_choices;
