CREATE TABLE settings (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  value TEXT NOT NULL
) STRICT;

CREATE TABLE marks (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  kind TEXT NOT NULL CHECK (kind IN ('svg', 'png')),
  -- Area the artwork shows and its ink box, JSON boxes in units of the artwork.
  natural_box TEXT NOT NULL,
  ink_box TEXT NOT NULL,
  notes TEXT NOT NULL DEFAULT '[]',
  retired INTEGER NOT NULL DEFAULT 0,
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE presets (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  mark_id INTEGER NOT NULL REFERENCES marks (id),
  rule TEXT NOT NULL,
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;
CREATE INDEX presets_by_mark ON presets (mark_id);

CREATE TABLE deliveries (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  -- The preset a batch gets that is dropped onto this delivery's ticket.
  preset_id INTEGER REFERENCES presets (id),
  recipe TEXT NOT NULL,
  -- NULL: a folder of the batch's name in the data folder.
  folder TEXT,
  favourite INTEGER NOT NULL DEFAULT 1,
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE batches (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  preset_id INTEGER REFERENCES presets (id) ON DELETE SET NULL,
  delivery_id INTEGER REFERENCES deliveries (id) ON DELETE SET NULL,
  created_at TEXT NOT NULL,
  opened_at TEXT NOT NULL
) STRICT;

CREATE TABLE photos (
  id INTEGER PRIMARY KEY,
  batch_id INTEGER NOT NULL REFERENCES batches (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  path TEXT NOT NULL,
  -- 'copied': dropped on the page and kept in the data folder; 'in-place': read where it lies.
  origin TEXT NOT NULL CHECK (origin IN ('copied', 'in-place')),
  device TEXT NOT NULL,
  inode TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  modified_ms INTEGER NOT NULL,
  format TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  bits INTEGER NOT NULL,
  profile TEXT,
  captured_at TEXT,
  camera TEXT,
  lens TEXT,
  proxy_width INTEGER NOT NULL,
  proxy_height INTEGER NOT NULL,
  light_width INTEGER NOT NULL,
  light_height INTEGER NOT NULL,
  light_cells BLOB NOT NULL,
  -- Mean L* of the whole photo.
  lightness REAL NOT NULL,
  added_at TEXT NOT NULL
) STRICT;
CREATE INDEX photos_by_batch ON photos (batch_id);
CREATE INDEX photos_by_identity ON photos (device, inode);

CREATE TABLE runs (
  id INTEGER PRIMARY KEY,
  batch_id INTEGER REFERENCES batches (id) ON DELETE SET NULL,
  batch_name TEXT NOT NULL,
  delivery_id INTEGER REFERENCES deliveries (id) ON DELETE SET NULL,
  delivery_name TEXT NOT NULL,
  recipe TEXT NOT NULL,
  preset_name TEXT NOT NULL,
  rule TEXT NOT NULL,
  mark_id INTEGER NOT NULL REFERENCES marks (id),
  mark_version INTEGER NOT NULL,
  folder TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('running', 'paused', 'done', 'cancelled')),
  created_at TEXT NOT NULL,
  finished_at TEXT
) STRICT;

CREATE TABLE run_items (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  number INTEGER NOT NULL,
  photo_id INTEGER REFERENCES photos (id) ON DELETE SET NULL,
  source_path TEXT NOT NULL,
  source_name TEXT NOT NULL,
  captured_at TEXT,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  -- 'naming': the temporary file is whole and flushed, and is about to get the name in `output`.
  status TEXT NOT NULL DEFAULT 'waiting'
    CHECK (status IN ('waiting', 'working', 'naming', 'written', 'skipped', 'failed', 'cancelled')),
  output TEXT,
  -- Inode of the temporary file, by which it is known again under its final name.
  output_inode TEXT,
  error TEXT,
  result TEXT,
  bytes_before INTEGER,
  bytes_after INTEGER,
  duration_ms INTEGER
) STRICT;
CREATE INDEX run_items_by_run ON run_items (run_id, number);
CREATE INDEX run_items_by_status ON run_items (run_id, status);
