-- What should be known of an output that was written, such as where the year in its mark came from.
ALTER TABLE run_items ADD COLUMN note TEXT;

-- Fonts that the photographer added; the files lie in the data folder, a folder for each family.
CREATE TABLE fonts (
  id INTEGER PRIMARY KEY,
  -- How designs name it.
  family TEXT NOT NULL,
  name TEXT NOT NULL,
  weight INTEGER NOT NULL,
  italic INTEGER NOT NULL,
  added_at TEXT NOT NULL,
  UNIQUE (family, weight, italic)
) STRICT;

-- Sets of finishes under a name, for any mark.
CREATE TABLE finish_sets (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  finishes TEXT NOT NULL
) STRICT;

INSERT INTO lasting_ids (name, last) VALUES ('fonts', 0);
