-- The links of bodies that lead inside the site, as they were read last.
CREATE TABLE links (
  item_id INTEGER NOT NULL REFERENCES bodies (item_id) ON DELETE CASCADE,
  -- Which of the body's <a> tags it is, from 1.
  number INTEGER NOT NULL,
  href TEXT NOT NULL,
  path TEXT NOT NULL,
  text TEXT NOT NULL,
  rel TEXT,
  is_relative INTEGER NOT NULL,
  PRIMARY KEY (item_id, number)
) STRICT, WITHOUT ROWID;

-- The bodies whose links have to be read yet: whoever writes a body, or moves its page, they get here. What a statement says of conflicts
-- holds in its triggers, too: OR IGNORE would not.
CREATE TABLE links_unread (
  item_id INTEGER PRIMARY KEY REFERENCES bodies (item_id) ON DELETE CASCADE
) STRICT;
INSERT INTO links_unread SELECT item_id FROM bodies WHERE body <> '';
CREATE TRIGGER links_of_new_body AFTER INSERT ON bodies WHEN new.body <> '' BEGIN
  INSERT INTO links_unread SELECT new.item_id WHERE new.item_id NOT IN (SELECT item_id FROM links_unread);
END;
CREATE TRIGGER links_of_changed_body AFTER UPDATE OF body ON bodies WHEN old.body <> new.body BEGIN
  INSERT INTO links_unread SELECT new.item_id WHERE new.item_id NOT IN (SELECT item_id FROM links_unread);
END;
CREATE TRIGGER links_of_moved_page AFTER UPDATE OF path ON items WHEN old.path IS NOT new.path BEGIN
  INSERT INTO links_unread SELECT item_id FROM bodies WHERE item_id = new.id AND body <> '' AND item_id NOT IN (SELECT item_id FROM links_unread);
END;

-- What is counted and gone through without reading the bodies themselves.
CREATE INDEX bodies_with_text ON bodies (item_id) WHERE body <> '';

-- What a link is to say instead of what it says; it waits in the review. A page that is gone for a while keeps it.
CREATE TABLE link_mends (
  item_id INTEGER NOT NULL,
  href TEXT NOT NULL,
  after TEXT NOT NULL,
  PRIMARY KEY (item_id, href)
) STRICT, WITHOUT ROWID;

-- Count up with every link that is read, and that is mended; the address of the site that links were read against.
ALTER TABLE site ADD COLUMN links_version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE site ADD COLUMN mends_version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE site ADD COLUMN links_read_for TEXT;

CREATE TABLE run_changes_wider (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  item_id INTEGER NOT NULL,
  -- title, description, slug, robots, keywords; alt: of one image; body: where one link of it leads; address: the page only moves along
  -- with one above it.
  text TEXT NOT NULL CHECK (text IN ('title', 'description', 'slug', 'robots', 'keywords', 'alt', 'body', 'address')),
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
INSERT INTO run_changes_wider (id, run_id, item_id, text, before, after, path_before, path_after, part, image, tag, revision, status, reason)
  SELECT id, run_id, item_id, text, before, after, path_before, path_after, part, image, tag, revision, status, reason FROM run_changes;
DROP TABLE run_changes;
ALTER TABLE run_changes_wider RENAME TO run_changes;
CREATE INDEX run_changes_by_run ON run_changes (run_id);
CREATE INDEX run_changes_by_item ON run_changes (item_id, run_id);
CREATE INDEX run_changes_waiting ON run_changes (run_id, item_id) WHERE status = 'waiting';
ALTER TABLE runs ADD COLUMN bodies INTEGER NOT NULL DEFAULT 0;
