-- A run exports its photos by one or several deliveries, each with its folder.
CREATE TABLE run_deliveries (
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  -- Position in the run, from 1.
  number INTEGER NOT NULL,
  delivery_id INTEGER REFERENCES deliveries (id) ON DELETE SET NULL,
  name TEXT NOT NULL,
  rule TEXT NOT NULL,
  folder TEXT NOT NULL,
  PRIMARY KEY (run_id, number)
) STRICT;
INSERT INTO run_deliveries (run_id, number, delivery_id, name, rule, folder)
  SELECT id, 1, delivery_id, delivery_name, delivery_rule, folder FROM runs;

-- The delivery that an output is of, by its number in the run; `number` is that of the photo.
ALTER TABLE run_items ADD COLUMN delivery INTEGER NOT NULL DEFAULT 1;
DROP INDEX run_items_by_run;
CREATE INDEX run_items_by_run ON run_items (run_id, number, delivery);

-- Without what a run said of its one delivery.
CREATE TABLE runs_now (
  id INTEGER PRIMARY KEY,
  batch_id INTEGER REFERENCES batches (id) ON DELETE SET NULL,
  batch_name TEXT NOT NULL,
  preset_id INTEGER REFERENCES presets (id) ON DELETE SET NULL,
  preset_name TEXT NOT NULL,
  rule TEXT NOT NULL,
  mark_id INTEGER NOT NULL REFERENCES marks (id),
  mark_version INTEGER NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('running', 'paused', 'done', 'cancelled')),
  -- What is in its way, where it was paused by itself.
  problem TEXT,
  created_at TEXT NOT NULL,
  finished_at TEXT
) STRICT;
INSERT INTO runs_now
  SELECT id, batch_id, batch_name, preset_id, preset_name, rule, mark_id, mark_version, state, problem,
    created_at, finished_at FROM runs;
DROP TABLE runs;
ALTER TABLE runs_now RENAME TO runs;

-- A batch goes out by several deliveries: their ids, JSON, in the order they were chosen.
CREATE TABLE batches_now (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  preset_id INTEGER REFERENCES presets (id) ON DELETE SET NULL,
  delivery_ids TEXT NOT NULL DEFAULT '[]',
  created_at TEXT NOT NULL,
  opened_at TEXT NOT NULL,
  -- Photos put by hand among the five hard ones, JSON.
  pins TEXT NOT NULL DEFAULT '{}',
  -- What its bench holds where that is not its preset as saved: mark and rule, JSON, or NULL.
  placing TEXT,
  -- Deleted at; gone for good 30 days later. NULL: it is there.
  deleted_at TEXT,
  -- The batch that photos were taken out of, where a batch in the bin holds nothing but those.
  taken_from INTEGER
) STRICT;
INSERT INTO batches_now
  SELECT id, name, preset_id, iif(delivery_id IS NULL, '[]', json_array(delivery_id)), created_at,
    opened_at, pins, placing, deleted_at, taken_from FROM batches;
DROP TABLE batches;
ALTER TABLE batches_now RENAME TO batches;
