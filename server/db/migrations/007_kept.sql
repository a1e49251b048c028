-- A delivery's rule is called so everywhere, as a preset's is.
ALTER TABLE deliveries RENAME COLUMN recipe TO rule;
ALTER TABLE runs RENAME COLUMN recipe TO delivery_rule;

-- What the bench of a batch holds where that is not its preset as saved: mark and rule, JSON, or NULL.
ALTER TABLE batches ADD COLUMN placing TEXT;

-- Deleted at; gone for good 30 days later. NULL: it is there.
ALTER TABLE marks ADD COLUMN deleted_at TEXT;
ALTER TABLE presets ADD COLUMN deleted_at TEXT;
ALTER TABLE deliveries ADD COLUMN deleted_at TEXT;
ALTER TABLE batches ADD COLUMN deleted_at TEXT;
-- The batch that photos were taken out of, where a batch in the bin holds nothing but those.
ALTER TABLE batches ADD COLUMN taken_from INTEGER;

ALTER TABLE deliveries ADD COLUMN updated_at TEXT;
UPDATE deliveries SET updated_at = created_at;

-- When a version of artwork was made. NULL: before this was kept.
ALTER TABLE artworks ADD COLUMN made_at TEXT;

-- What presets and deliveries said before, JSON.
CREATE TABLE earlier_versions (
  kind TEXT NOT NULL CHECK (kind IN ('preset', 'delivery')),
  subject_id INTEGER NOT NULL,
  version INTEGER NOT NULL,
  value TEXT NOT NULL,
  -- When it was saved.
  made_at TEXT NOT NULL,
  PRIMARY KEY (kind, subject_id, version)
) STRICT;
