-- JSON: the surfaces as they were made narrower for what a theme adds; once they are others, it is taken no more. Empty: it was taken before that was noted, and stays so.
ALTER TABLE live_taken ADD COLUMN surfaces TEXT NOT NULL DEFAULT '[]';
