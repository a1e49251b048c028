-- What was changed by hand for one photo, JSON; a photo without a row follows its batch.
CREATE TABLE adjustments (
  photo_id INTEGER PRIMARY KEY REFERENCES photos (id) ON DELETE CASCADE,
  value TEXT NOT NULL
) STRICT;

-- Photos put by hand among the five hard ones, JSON: what they stand for and their ids.
ALTER TABLE batches ADD COLUMN pins TEXT NOT NULL DEFAULT '{}';

-- The photo's own part of a run: its adjustment, and where it has another preset that preset.
ALTER TABLE run_items ADD COLUMN adjustment TEXT NOT NULL DEFAULT '{}';
ALTER TABLE run_items ADD COLUMN preset_name TEXT;
ALTER TABLE run_items ADD COLUMN rule TEXT;
ALTER TABLE run_items ADD COLUMN mark_id INTEGER REFERENCES marks (id);
ALTER TABLE run_items ADD COLUMN mark_version INTEGER;

-- Presets in an order of the photographer's own, and how often each was used.
ALTER TABLE presets ADD COLUMN position INTEGER NOT NULL DEFAULT 0;
ALTER TABLE presets ADD COLUMN favourite INTEGER NOT NULL DEFAULT 0;
ALTER TABLE presets ADD COLUMN uses INTEGER NOT NULL DEFAULT 0;
ALTER TABLE presets ADD COLUMN used_at TEXT;
UPDATE presets SET position = (SELECT count(*) FROM presets p WHERE p.name < presets.name);
