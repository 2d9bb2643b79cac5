-- What a promised call asks for, as the hand-over did, and how often it is tried where a line of a bot says so.
ALTER TABLE callbacks ADD COLUMN needs TEXT NOT NULL DEFAULT '[]';
ALTER TABLE callbacks ADD COLUMN priority INTEGER NOT NULL DEFAULT 0;
ALTER TABLE callbacks ADD COLUMN most INTEGER;

-- What follows the closing words of a door; and that it is shut or open by hand for now.
ALTER TABLE doors ADD COLUMN when_closed TEXT NOT NULL DEFAULT '{"does":"end"}';
ALTER TABLE doors ADD COLUMN by_hand TEXT;

-- A visit of a message that was left: its customer is not there.
ALTER TABLE visits ADD COLUMN message INTEGER NOT NULL DEFAULT 0;
-- A message that was left with a contact and that nobody has dealt with yet: for which queue, and what it needs.
ALTER TABLE contacts ADD COLUMN left_for TEXT;
