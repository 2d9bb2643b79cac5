-- Pictures that bots show in writing, each once by the digest of its bytes; versions and files of bots name them by it.
CREATE TABLE images (id TEXT PRIMARY KEY, type TEXT NOT NULL, bytes BLOB NOT NULL) STRICT;
ALTER TABLE messages ADD COLUMN image TEXT;
