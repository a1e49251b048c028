-- Folders that are watched: what appears in them is exported by itself.
CREATE TABLE inboxes (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  folder TEXT NOT NULL,
  -- The lowest first.
  preset_ids TEXT NOT NULL,
  delivery_ids TEXT NOT NULL,
  is_on INTEGER NOT NULL,
  created_at TEXT NOT NULL
);
-- Each photo of an inbox as it was when it was taken, so that it is taken once.
CREATE TABLE inbox_files (
  inbox_id INTEGER NOT NULL REFERENCES inboxes (id) ON DELETE CASCADE,
  -- Below the folder, with / between folders.
  name TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  modified_ms REAL NOT NULL,
  hash TEXT NOT NULL,
  -- Position among all that were taken.
  number INTEGER NOT NULL,
  -- Why it could not be read at all; else a run has it.
  problem TEXT,
  PRIMARY KEY (inbox_id, name)
);
-- The inbox that a run was begun by, and the folder below it whose photos it has.
ALTER TABLE runs ADD COLUMN inbox_id INTEGER;
ALTER TABLE runs ADD COLUMN below TEXT;
CREATE INDEX runs_by_inbox ON runs (inbox_id, below) WHERE inbox_id IS NOT NULL;
