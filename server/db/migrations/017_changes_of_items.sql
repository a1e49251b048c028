-- Counted up in its run whenever an output ends or begins anew, so that a page asks only for those.
ALTER TABLE run_items ADD COLUMN changed INTEGER NOT NULL DEFAULT 0;
CREATE INDEX run_items_by_change ON run_items (run_id, changed);

-- The first that waits is found without looking at the others, however many there are.
DROP INDEX run_items_by_status;
CREATE INDEX run_items_by_status ON run_items (run_id, status, number, delivery);
