-- Files of a delivery may go into a folder of their own below the one that was chosen.
ALTER TABLE deliveries ADD COLUMN subfolder TEXT NOT NULL DEFAULT 'none'
  CHECK (subfolder IN ('none', 'batch', 'date'));
-- Whether the folder itself is made by the run; the one it lies in must be there.
ALTER TABLE run_deliveries ADD COLUMN makes_folder INTEGER NOT NULL DEFAULT 0;
