-- Each version of a mark's artwork keeps what is known of it, since a run goes on with its own.
CREATE TABLE artworks (
  mark_id INTEGER NOT NULL REFERENCES marks (id) ON DELETE CASCADE,
  version INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('svg', 'png')),
  -- Area the artwork shows and its ink box, JSON boxes in units of the artwork.
  natural_box TEXT NOT NULL,
  ink_box TEXT NOT NULL,
  notes TEXT NOT NULL DEFAULT '[]',
  -- How it was made, JSON, so that it can be taken up again.
  origin TEXT NOT NULL DEFAULT '{"kind":"file"}',
  -- The box of one colour round it and what was done about it, JSON, or NULL.
  box TEXT,
  -- 1: pixels are kept beside the outlines, in a PNG of the same version.
  has_pixels INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (mark_id, version)
) STRICT;

INSERT INTO artworks (mark_id, version, kind, natural_box, ink_box, notes)
SELECT id, version, kind, natural_box, ink_box, notes FROM marks;

ALTER TABLE marks DROP COLUMN kind;
ALTER TABLE marks DROP COLUMN natural_box;
ALTER TABLE marks DROP COLUMN ink_box;
ALTER TABLE marks DROP COLUMN notes;

-- Sheets of paper as scanned or photographed, kept so that a lift can be opened again.
CREATE TABLE scans (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  -- Ending of the stored file, with its dot.
  ending TEXT NOT NULL,
  format TEXT NOT NULL,
  pages INTEGER NOT NULL DEFAULT 1,
  created_at TEXT NOT NULL
) STRICT;

-- Pictures are kept by browsers under the id for good, so an id is never given out twice, not even
-- after its row was deleted.
CREATE TABLE lasting_ids (
  name TEXT PRIMARY KEY,
  last INTEGER NOT NULL
) STRICT;
INSERT INTO lasting_ids (name, last) VALUES
  ('marks', (SELECT coalesce(max(id), 0) FROM marks)),
  ('photos', (SELECT coalesce(max(id), 0) FROM photos)),
  ('scans', 0);
