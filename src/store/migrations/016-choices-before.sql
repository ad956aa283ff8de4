-- What was said of groups and changes before the last word on many of them, so that it can be taken back. One row says what that
-- word was; without it there is nothing to take back.
CREATE TABLE choices_before (
  act TEXT NOT NULL
);
CREATE TABLE group_choices_before (
  name TEXT NOT NULL,
  kind TEXT NOT NULL,
  text TEXT NOT NULL,
  included INTEGER NOT NULL
);
CREATE TABLE change_choices_before (
  item_id INTEGER NOT NULL,
  text TEXT NOT NULL,
  part INTEGER NOT NULL,
  mark TEXT,
  included INTEGER NOT NULL
);
