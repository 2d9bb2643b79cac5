-- What coaches write: a note about a person or a contact (one of them at least), which the person may read where it is shared, and which may
-- mark something to talk about with them. Floor time.
CREATE TABLE coach_notes (
  id TEXT PRIMARY KEY, person_id TEXT, contact_id TEXT, author_id TEXT NOT NULL, at INTEGER NOT NULL, words TEXT NOT NULL, shared INTEGER NOT NULL,
  to_talk INTEGER NOT NULL, talked_at INTEGER, CHECK (person_id IS NOT NULL OR contact_id IS NOT NULL)
) STRICT, WITHOUT ROWID;
CREATE INDEX notes_of_person ON coach_notes (person_id, at) WHERE person_id IS NOT NULL;
CREATE INDEX notes_of_contact ON coach_notes (contact_id, at) WHERE contact_id IS NOT NULL;

-- How a conversation went by the workspace's points, one rating by each author; marks as JSON, with the points as they were worded then.
CREATE TABLE coach_ratings (
  id TEXT PRIMARY KEY, contact_id TEXT NOT NULL, person_id TEXT NOT NULL, author_id TEXT NOT NULL, at INTEGER NOT NULL, marks TEXT NOT NULL, words TEXT NOT NULL,
  shared INTEGER NOT NULL, UNIQUE (contact_id, person_id, author_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX ratings_of_person ON coach_ratings (person_id, at);

-- Contacts drawn to be rated, of each person for each month (2026-11), and by which rule or chance.
CREATE TABLE coach_draws (
  month TEXT NOT NULL, person_id TEXT NOT NULL, contact_id TEXT NOT NULL, why TEXT NOT NULL, PRIMARY KEY (month, person_id, contact_id)
) STRICT, WITHOUT ROWID;
