-- What a promised call asks for, as the hand-over did, and how often it is tried where a line of a bot says so.
ALTER TABLE callbacks ADD COLUMN needs TEXT NOT NULL DEFAULT '[]';
ALTER TABLE callbacks ADD COLUMN priority INTEGER NOT NULL DEFAULT 0;
ALTER TABLE callbacks ADD COLUMN most INTEGER;
