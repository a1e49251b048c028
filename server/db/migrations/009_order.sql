-- Runs are worked off in an order that can be changed; until it is, the oldest comes first.
ALTER TABLE runs ADD COLUMN turn INTEGER NOT NULL DEFAULT 0;
UPDATE runs SET turn = id;
