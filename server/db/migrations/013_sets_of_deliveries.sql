-- Presets that a delivery lays over its own, the lowest first.
ALTER TABLE deliveries ADD COLUMN over_ids TEXT NOT NULL DEFAULT '[]';
-- Marks over the first of an output that does not take those of its run.
ALTER TABLE run_items ADD COLUMN own_over TEXT NOT NULL DEFAULT '[]';
