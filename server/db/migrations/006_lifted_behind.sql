-- 1: the ink is still being lifted; until then there are no files of this version, and its boxes are
-- a guess.
ALTER TABLE artworks ADD COLUMN is_pending INTEGER NOT NULL DEFAULT 0;
-- Upright, px. NULL: a PDF, or a scan of before.
ALTER TABLE scans ADD COLUMN width INTEGER;
ALTER TABLE scans ADD COLUMN height INTEGER;
