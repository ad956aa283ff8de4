-- A run's figures stand with it, so that listing runs does not count their changes, which may be millions.
ALTER TABLE runs ADD COLUMN changes INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN applied INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN skipped INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN redirects INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN items INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN titles INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN descriptions INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN slugs INTEGER NOT NULL DEFAULT 0;
ALTER TABLE runs ADD COLUMN robots INTEGER NOT NULL DEFAULT 0;
UPDATE runs SET
  changes = (SELECT count(*) FROM run_changes WHERE run_id = runs.id),
  applied = (SELECT count(*) FROM run_changes WHERE run_id = runs.id AND status = 'applied'),
  skipped = (SELECT count(*) FROM run_changes WHERE run_id = runs.id AND status = 'skipped'),
  redirects = (SELECT count(*) FROM redirects WHERE run_id = runs.id),
  items = (SELECT count(DISTINCT item_id) FROM run_changes WHERE run_id = runs.id),
  titles = (SELECT count(*) FROM run_changes WHERE run_id = runs.id AND text = 'title'),
  descriptions = (SELECT count(*) FROM run_changes WHERE run_id = runs.id AND text = 'description'),
  slugs = (SELECT count(*) FROM run_changes WHERE run_id = runs.id AND text = 'slug'),
  robots = (SELECT count(*) FROM run_changes WHERE run_id = runs.id AND text = 'robots');

-- A run's changes are read in the order of their ids, an item's over all runs.
DROP INDEX run_changes_by_item;
DROP INDEX run_changes_of_item;
CREATE INDEX run_changes_by_run ON run_changes (run_id);
CREATE INDEX run_changes_by_item ON run_changes (item_id, run_id);
