-- Telephone numbers without a country code are read by the workspace's own country (ISO 3166); empty reads none.
ALTER TABLE workspace ADD COLUMN country TEXT NOT NULL DEFAULT '';
-- How a registered stand-in behaves is kept under a name of its own, whatever company it plays.
UPDATE documents SET kind = 'stand-in-system', id = 'stand-in-system' WHERE kind = 'hire-desk';
UPDATE history SET kind = 'stand-in-system', thing_id = 'stand-in-system' WHERE kind = 'hire-desk';
-- Links by which somebody who forgot their password chooses another; real ms.
CREATE TABLE password_links (token_hash TEXT PRIMARY KEY, person_id TEXT NOT NULL REFERENCES people(id) ON DELETE CASCADE, until INTEGER NOT NULL) STRICT, WITHOUT ROWID;
