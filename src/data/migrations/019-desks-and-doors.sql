-- Contacts of a partner desk, by which its own limits are counted after a start.
CREATE INDEX partner_calls_of_partner ON partner_calls(partner_id, started_at);

-- Who meets whoever comes to a door: its bot, one by first words, or people.
ALTER TABLE doors ADD COLUMN meets TEXT NOT NULL DEFAULT '{"by":"bot"}';

-- The page that somebody wrote from, and where they are, as their browser says. Kept apart from the log.
CREATE TABLE pages (
  contact_id TEXT PRIMARY KEY,
  address TEXT NOT NULL,
  place TEXT
) WITHOUT ROWID;

-- Files of words and music that were recorded, each once by its digest.
CREATE TABLE sounds (id TEXT PRIMARY KEY, type TEXT NOT NULL, bytes BLOB NOT NULL) STRICT;
