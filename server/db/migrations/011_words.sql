-- What marks may say of a photo. Photos of before are read once for that when the server starts.
ALTER TABLE photos ADD COLUMN place TEXT;
ALTER TABLE photos ADD COLUMN caption TEXT;
ALTER TABLE photos ADD COLUMN artist TEXT;
ALTER TABLE photos ADD COLUMN has_words INTEGER NOT NULL DEFAULT 0;
