-- What a person said of a group of changes, whole ('' for the kind and the text) or of one text of one kind in it.
CREATE TABLE group_choices_wider (
  name TEXT NOT NULL,
  kind TEXT NOT NULL DEFAULT '',
  text TEXT NOT NULL DEFAULT '',
  included INTEGER NOT NULL,
  PRIMARY KEY (name, kind, text)
) STRICT, WITHOUT ROWID;
INSERT INTO group_choices_wider (name, included) SELECT name, included FROM group_choices;
DROP TABLE group_choices;
ALTER TABLE group_choices_wider RENAME TO group_choices;
