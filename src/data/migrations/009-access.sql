-- Sessions are listed to whom they belong, and end after a while in which nothing was asked for. Real ms.
ALTER TABLE sessions ADD COLUMN id TEXT NOT NULL DEFAULT '';
ALTER TABLE sessions ADD COLUMN seen_at INTEGER NOT NULL DEFAULT 0;
ALTER TABLE sessions ADD COLUMN device TEXT NOT NULL DEFAULT '';
ALTER TABLE sessions ADD COLUMN network TEXT NOT NULL DEFAULT '';
UPDATE sessions SET id = substr(token_hash, 1, 16), seen_at = real_at;

-- Acts carried out under a key of their caller's: digests only, and an answer without words or tokens. What was kept
-- before held both.
DROP TABLE acts;
CREATE TABLE done_acts (key BLOB PRIMARY KEY, real_at INTEGER NOT NULL, request BLOB NOT NULL, answer TEXT NOT NULL) STRICT, WITHOUT ROWID;
CREATE INDEX done_acts_age ON done_acts(real_at);

-- Doors of channels that are servers have keys: kept by their digest, shown once.
CREATE TABLE door_keys (
  id TEXT PRIMARY KEY, door_id TEXT NOT NULL REFERENCES doors(id), name TEXT NOT NULL, key_hash TEXT NOT NULL UNIQUE, made_at INTEGER NOT NULL,
  made_by TEXT NOT NULL, used_at INTEGER, ended_at INTEGER
) STRICT;
CREATE INDEX door_keys_of ON door_keys(door_id);

-- Whether the channel vouches for an address. Somebody who only says that an address is theirs is somebody else than
-- whoever it belongs to. Until now chats came from browsers, and all else from servers.
CREATE TABLE customers_now (id TEXT PRIMARY KEY, channel TEXT NOT NULL, address TEXT NOT NULL, name TEXT, vouched INTEGER NOT NULL, UNIQUE (channel, address, vouched)) STRICT;
INSERT INTO customers_now (id, channel, address, name, vouched) SELECT id, channel, address, name, channel <> 'chat' FROM customers;
DROP TABLE customers;
ALTER TABLE customers_now RENAME TO customers;

-- Tokens are made from the server's key now, and kept nowhere; conversations that are going on keep theirs.
CREATE TABLE bot_places (contact_id TEXT PRIMARY KEY REFERENCES contacts(id), state TEXT, asking TEXT) STRICT, WITHOUT ROWID;
INSERT INTO bot_places (contact_id, state, asking) SELECT contact_id, bot_state, asking FROM contact_keys WHERE bot_state IS NOT NULL OR asking IS NOT NULL;
CREATE TABLE earlier_tokens (contact_id TEXT PRIMARY KEY, token_hash TEXT NOT NULL) STRICT, WITHOUT ROWID;
INSERT INTO earlier_tokens (contact_id, token_hash) SELECT contact_id, token_hash FROM contact_keys WHERE contact_id IN (SELECT id FROM contacts WHERE ended_at IS NULL);
DROP TABLE contact_keys;

-- Numbers that customers gave, and the codes (by their digest) by which they show that they are theirs. Real ms.
CREATE TABLE given_numbers (
  contact_id TEXT NOT NULL REFERENCES contacts(id), number TEXT NOT NULL, code_hash TEXT, sent INTEGER NOT NULL, sent_at INTEGER NOT NULL, tries INTEGER NOT NULL DEFAULT 0,
  proven INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (contact_id, number)
) STRICT, WITHOUT ROWID;
CREATE INDEX given_numbers_sent ON given_numbers(number, sent_at);
