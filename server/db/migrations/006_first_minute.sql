-- 1: the ink is still being lifted; until then there are no files of this version, and its boxes are
-- a guess.
ALTER TABLE artworks ADD COLUMN is_pending INTEGER NOT NULL DEFAULT 0;
-- Upright, px. NULL: a PDF, or a scan of before.
ALTER TABLE scans ADD COLUMN width INTEGER;
ALTER TABLE scans ADD COLUMN height INTEGER;

-- The position is dropped unless it is asked for; deliveries and runs of before kept it.
UPDATE deliveries SET recipe = json_set(recipe, '$.metadata.location', 'keep')
  WHERE json_extract(recipe, '$.metadata.keep') = 'all';
UPDATE runs SET recipe = json_set(recipe, '$.metadata.location', 'keep')
  WHERE json_extract(recipe, '$.metadata.keep') = 'all';

-- The example photos, and what was laid into the library with them, until they are taken away.
CREATE TABLE examples (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  batch_id INTEGER REFERENCES batches (id) ON DELETE SET NULL,
  -- JSON lists of ids.
  mark_ids TEXT NOT NULL,
  preset_ids TEXT NOT NULL
) STRICT;
