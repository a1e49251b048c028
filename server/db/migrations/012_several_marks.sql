-- Marks beside the one that is in hand on a batch's bench, and where that stands among them.
ALTER TABLE batches ADD COLUMN beside TEXT NOT NULL DEFAULT '{"at":0,"marks":[]}';
-- Marks that a run lays over the first, the lowest first.
ALTER TABLE runs ADD COLUMN over TEXT NOT NULL DEFAULT '[]';
-- A delivery's own preset is laid alone.
ALTER TABLE run_items ADD COLUMN is_alone INTEGER NOT NULL DEFAULT 0;
-- Presets that are laid over each other, under one name; the lowest first.
CREATE TABLE mark_sets (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  preset_ids TEXT NOT NULL
);
