-- The canonical that the site has, as it says it: a path or a whole address; '' where it is the page's own address.
ALTER TABLE items ADD COLUMN canonical TEXT NOT NULL DEFAULT '';
ALTER TABLE gone_items ADD COLUMN canonical TEXT NOT NULL DEFAULT '';
-- Most pages have none: those that have one are found without reading the others.
CREATE INDEX items_with_canonical ON items (kind) WHERE canonical <> '';

CREATE TABLE hand_extras_wider (
  item_id INTEGER NOT NULL REFERENCES items (id) ON DELETE CASCADE,
  text TEXT NOT NULL CHECK (text IN ('alt', 'keywords', 'canonical')),
  -- The address of the image as it stands in the body, '' for what is no image's.
  image TEXT NOT NULL,
  value TEXT NOT NULL,
  PRIMARY KEY (item_id, text, image)
) STRICT, WITHOUT ROWID;
INSERT INTO hand_extras_wider (item_id, text, image, value) SELECT item_id, text, image, value FROM hand_extras;
DROP TABLE hand_extras;
ALTER TABLE hand_extras_wider RENAME TO hand_extras;

CREATE TABLE edit_changes_wider (
  edit_id INTEGER NOT NULL REFERENCES edits (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  field TEXT NOT NULL CHECK (field IN ('title', 'description', 'slug', 'robots', 'keyword', 'keywords', 'alt', 'canonical')),
  image TEXT NOT NULL DEFAULT '',
  -- NULL: not by hand.
  before TEXT,
  after TEXT,
  -- Which of the two stands now; skipped: someone else changed it meanwhile.
  state TEXT NOT NULL DEFAULT 'before' CHECK (state IN ('before', 'after', 'skipped')),
  PRIMARY KEY (edit_id, item_id, field, image)
) STRICT, WITHOUT ROWID;
INSERT INTO edit_changes_wider (edit_id, item_id, field, image, before, after, state)
  SELECT edit_id, item_id, field, image, before, after, state FROM edit_changes;
DROP TABLE edit_changes;
ALTER TABLE edit_changes_wider RENAME TO edit_changes;
CREATE INDEX edit_changes_by_state ON edit_changes (edit_id, state);

CREATE TABLE run_changes_wider (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  -- title, description, slug, robots, keywords, canonical; alt: of one image; body: where one link of it leads; address: the page only
  -- moves along with one above it.
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug', 'robots', 'keywords', 'canonical', 'alt', 'body', 'address')),
  before TEXT NOT NULL,
  after TEXT NOT NULL,
  path_before TEXT,
  path_after TEXT,
  -- Of an image: which of the body's it is, from 1, its address as it stands there, and its tag as it was before the run. Of a link:
  -- which of the body's <a> tags it is, its text, and its tag.
  part INTEGER,
  image TEXT,
  tag TEXT,
  -- Of a link that is rewritten because a page moves: the page, without whose move it stays as it is.
  follows INTEGER,
  revision INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'waiting' CHECK (status IN ('waiting', 'applied', 'skipped')),
  reason TEXT
) STRICT;
INSERT INTO run_changes_wider (id, run_id, item_id, text, before, after, path_before, path_after, part, image, tag, follows, revision, status, reason)
  SELECT id, run_id, item_id, text, before, after, path_before, path_after, part, image, tag, follows, revision, status, reason FROM run_changes;
DROP TABLE run_changes;
ALTER TABLE run_changes_wider RENAME TO run_changes;
CREATE INDEX run_changes_by_run ON run_changes (run_id);
CREATE INDEX run_changes_by_item ON run_changes (item_id, run_id);
CREATE INDEX run_changes_waiting ON run_changes (run_id, item_id) WHERE status = 'waiting';
ALTER TABLE runs ADD COLUMN canonicals INTEGER NOT NULL DEFAULT 0;
