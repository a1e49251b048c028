-- Where photos of a watched folder go that cannot be read; null: they stay.
ALTER TABLE inboxes ADD COLUMN aside TEXT;
