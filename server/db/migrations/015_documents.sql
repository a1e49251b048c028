-- What a run makes of many photos together: sheets of paper, shows.
CREATE TABLE run_documents (
  id INTEGER PRIMARY KEY,
  run_id INTEGER NOT NULL REFERENCES runs (id) ON DELETE CASCADE,
  -- Position of its delivery in the run, from 1.
  delivery INTEGER NOT NULL,
  -- Place among the sheets, from 1, where each is a file; 0: all in one.
  sheet INTEGER NOT NULL,
  status TEXT NOT NULL DEFAULT 'waiting'
    CHECK (status IN ('waiting', 'naming', 'written', 'skipped', 'failed')),
  output TEXT,
  output_inode TEXT,
  temporary TEXT,
  bytes INTEGER NOT NULL DEFAULT 0,
  error TEXT,
  UNIQUE (run_id, delivery, sheet)
);
