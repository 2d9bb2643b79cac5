-- What a version was published with: shared scenes, connectors and the phrasebook, so that a conversation stays on it.
ALTER TABLE bot_versions ADD COLUMN pinned TEXT NOT NULL DEFAULT '{}';
-- A version that goes live at a set instant, and a version that some of a door's customers meet.
ALTER TABLE bots ADD COLUMN planned TEXT;
ALTER TABLE doors ADD COLUMN trial TEXT;
-- The phrasebook is learnt once for each time it changes; versions of bots name the one they use.
CREATE TABLE phrasebook_versions (version INTEGER PRIMARY KEY, real_at INTEGER NOT NULL, person_id TEXT NOT NULL, book TEXT NOT NULL, learnt TEXT NOT NULL) STRICT;

ALTER TABLE fields ADD COLUMN body TEXT NOT NULL DEFAULT '{}';
ALTER TABLE fields ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
-- The fields that a bot has passed on, which the Desk may show.
CREATE TABLE passed_fields (contact_id TEXT NOT NULL REFERENCES contacts(id), name TEXT NOT NULL, PRIMARY KEY (contact_id, name)) STRICT, WITHOUT ROWID;

-- Secrets of connectors never leave the server, so they stand apart from what is read, exported and undone.
CREATE TABLE connector_secrets (connector_id TEXT PRIMARY KEY, secret TEXT NOT NULL) STRICT, WITHOUT ROWID;

-- Customers' words that no bot understood, until somebody teaches or drops them. Private values are tokens.
CREATE TABLE unheard (id INTEGER PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), line_id TEXT NOT NULL, language TEXT NOT NULL, text TEXT NOT NULL, floor_at INTEGER NOT NULL) STRICT;
CREATE INDEX unheard_at ON unheard(floor_at);

-- Texts to be sent when a contact is over.
CREATE TABLE later_texts (id INTEGER PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), address TEXT NOT NULL, text TEXT NOT NULL) STRICT;
CREATE INDEX later_texts_of ON later_texts(contact_id);

-- The words of messages may be spoken with SSML and be interrupted.
ALTER TABLE messages ADD COLUMN ssml TEXT;
ALTER TABLE messages ADD COLUMN may_interrupt INTEGER NOT NULL DEFAULT 1;

CREATE VIRTUAL TABLE article_words USING fts5(id UNINDEXED, language UNINDEXED, title, text, tokenize = 'unicode61 remove_diacritics 2');

-- The ways that customers took through bots, for the map.
CREATE INDEX events_of_bots ON events(floor_at) WHERE type = 'bot.finished';
