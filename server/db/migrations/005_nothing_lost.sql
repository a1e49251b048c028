-- What is in the way of a run, where it was paused by itself.
ALTER TABLE runs ADD COLUMN problem TEXT;
-- The saved preset it was begun with, so that this is not deleted under it.
ALTER TABLE runs ADD COLUMN preset_id INTEGER REFERENCES presets (id) ON DELETE SET NULL;

-- Counted up when a photo that is read in place was read again; pictures of it go by that.
ALTER TABLE photos ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
-- What should be known of it: changed since it was read, or away.
ALTER TABLE photos ADD COLUMN note TEXT;
-- SHA-256 of a copied photo, by which it is known when it comes again. NULL: read in place, or older.
ALTER TABLE photos ADD COLUMN content_hash TEXT;
CREATE INDEX photos_by_content ON photos (batch_id, content_hash);
CREATE INDEX photos_by_path ON photos (batch_id, path);

-- Counted up with each change, so that a window with an older one is told.
ALTER TABLE presets ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE deliveries ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE settings ADD COLUMN version INTEGER NOT NULL DEFAULT 1;

-- Folders that are read into batches.
CREATE TABLE imports (
  id INTEGER PRIMARY KEY,
  batch_id INTEGER NOT NULL REFERENCES batches (id) ON DELETE CASCADE,
  folder TEXT NOT NULL,
  state TEXT NOT NULL DEFAULT 'reading' CHECK (state IN ('reading', 'paused', 'done', 'cancelled')),
  -- What is in its way, where it was paused by itself.
  problem TEXT,
  created_at TEXT NOT NULL,
  finished_at TEXT
) STRICT;
CREATE INDEX imports_by_batch ON imports (batch_id, state);

CREATE TABLE import_items (
  id INTEGER PRIMARY KEY,
  import_id INTEGER NOT NULL REFERENCES imports (id) ON DELETE CASCADE,
  -- Path below the folder.
  name TEXT NOT NULL,
  status TEXT NOT NULL DEFAULT 'waiting'
    CHECK (status IN ('waiting', 'added', 'already', 'refused', 'cancelled')),
  reason TEXT
) STRICT;
CREATE INDEX import_items_by_status ON import_items (import_id, status);

-- Answers to requests that make something, by the key that the page gave each: asked again, because
-- the answer was lost on its way, the same is answered and nothing is made twice.
CREATE TABLE answers (
  key TEXT PRIMARY KEY,
  request TEXT NOT NULL,
  status INTEGER NOT NULL,
  body TEXT NOT NULL,
  answered_at TEXT NOT NULL
) STRICT;
CREATE INDEX answers_by_age ON answers (answered_at);

-- The temporary file of an item that is about to get its name.
ALTER TABLE run_items ADD COLUMN temporary TEXT;

-- Windows keep unsaved changes of presets and batches by their ids: those are not given out again.
INSERT INTO lasting_ids (name, last) VALUES
  ('batches', (SELECT coalesce(max(id), 0) FROM batches)),
  ('presets', (SELECT coalesce(max(id), 0) FROM presets)),
  ('deliveries', (SELECT coalesce(max(id), 0) FROM deliveries)),
  ('runs', (SELECT coalesce(max(id), 0) FROM runs));
