-- What somebody wrote for whoever takes a contact next, when they passed it on.
CREATE TABLE pass_notes (id INTEGER PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), person_id TEXT NOT NULL, words TEXT NOT NULL, floor_at INTEGER NOT NULL) STRICT;
CREATE INDEX pass_notes_of ON pass_notes(contact_id);

-- How often a stock reply was sent, and when last.
CREATE TABLE stock_uses (reply_id TEXT PRIMARY KEY, times INTEGER NOT NULL, floor_at INTEGER NOT NULL) STRICT, WITHOUT ROWID;

-- What a conversation came to: as somebody mended it, or made of its own words by itself (nobody named).
CREATE TABLE contact_summaries (contact_id TEXT PRIMARY KEY REFERENCES contacts(id), words TEXT NOT NULL, person_id TEXT, floor_at INTEGER NOT NULL) STRICT, WITHOUT ROWID;
