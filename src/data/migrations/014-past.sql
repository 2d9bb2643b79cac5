-- What was brought in from before or from elsewhere: each file, its text until it is kept, and how far it has come (real ms).
CREATE TABLE past_imports (
  id TEXT PRIMARY KEY, name TEXT NOT NULL, person_id TEXT NOT NULL, real_at INTEGER NOT NULL, is_table INTEGER NOT NULL, state TEXT NOT NULL,
  done INTEGER NOT NULL DEFAULT 0, place INTEGER NOT NULL DEFAULT 0, within INTEGER NOT NULL DEFAULT 0, contacts INTEGER NOT NULL DEFAULT 0, states INTEGER NOT NULL DEFAULT 0, skipped INTEGER NOT NULL DEFAULT 0, first_at INTEGER, last_at INTEGER,
  fault TEXT
) STRICT, WITHOUT ROWID;
CREATE TABLE past_chunks (
  import_id TEXT NOT NULL REFERENCES past_imports(id) ON DELETE CASCADE, place INTEGER NOT NULL, line INTEGER NOT NULL, text TEXT NOT NULL,
  PRIMARY KEY (import_id, place)
) STRICT;
-- Contacts that were brought in, and what they are called where they come from.
CREATE TABLE past_contacts (
  no INTEGER PRIMARY KEY REFERENCES contacts(no), import_id TEXT NOT NULL, was TEXT NOT NULL UNIQUE
) STRICT;
CREATE INDEX past_contacts_of ON past_contacts (import_id);
-- Things that are known by name alone: each file names those that it brought.
CREATE TABLE past_names (import_id TEXT NOT NULL, kind TEXT NOT NULL, id TEXT NOT NULL, name TEXT NOT NULL, PRIMARY KEY (import_id, kind, name)) STRICT, WITHOUT ROWID;
-- How people were, as it was brought in; beside person_states, which are made from the log.
CREATE TABLE past_states (
  person_id TEXT NOT NULL, at INTEGER NOT NULL, import_id TEXT NOT NULL, duty TEXT NOT NULL, reason TEXT, PRIMARY KEY (person_id, at)
) STRICT, WITHOUT ROWID;
CREATE INDEX past_states_of ON past_states (import_id);
