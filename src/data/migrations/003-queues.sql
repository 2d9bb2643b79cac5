-- What a waiting visit has to be taken up with after a stop. All of it is made from events.
ALTER TABLE visits ADD COLUMN hand_over TEXT NOT NULL DEFAULT '[]';
ALTER TABLE visits ADD COLUMN passed TEXT NOT NULL DEFAULT '[]';
ALTER TABLE visits ADD COLUMN familiar_id TEXT;
ALTER TABLE visits ADD COLUMN callback INTEGER NOT NULL DEFAULT 0;
ALTER TABLE visits ADD COLUMN staged_at TEXT NOT NULL DEFAULT '[]';
ALTER TABLE visits ADD COLUMN opened TEXT NOT NULL DEFAULT '[]';
ALTER TABLE visits ADD COLUMN choosing_until INTEGER;
ALTER TABLE offers ADD COLUMN group_id TEXT;
CREATE INDEX offers_of_group ON offers(group_id, made_at) WHERE group_id IS NOT NULL;
CREATE INDEX offers_of_person ON offers(person_id, made_at);
CREATE INDEX offers_pending ON offers(made_at, id) WHERE ended_at IS NULL;
CREATE INDEX legs_taken ON legs(accepted_at);
ALTER TABLE legs ADD COLUMN group_id TEXT;
CREATE TABLE partner_calls (
  id TEXT PRIMARY KEY, visit_id TEXT NOT NULL REFERENCES visits(id), contact_id TEXT NOT NULL REFERENCES contacts(id), partner_id TEXT NOT NULL, number_id TEXT NOT NULL,
  started_at INTEGER NOT NULL, answered_at INTEGER, ended_at INTEGER, ended_how TEXT, counted INTEGER NOT NULL DEFAULT 1
) STRICT;
CREATE INDEX partner_calls_of ON partner_calls(number_id, started_at);
CREATE INDEX partner_calls_open ON partner_calls(id) WHERE ended_at IS NULL;
-- What the router has learned or counted and cannot be read from events at once: figures of lines, shares.
CREATE TABLE router_memory (key TEXT PRIMARY KEY, body TEXT NOT NULL) STRICT, WITHOUT ROWID;

-- Calls promised to customers; the number is private, so it is not in the log.
CREATE TABLE callbacks (
  id TEXT PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), queue_id TEXT NOT NULL, number TEXT NOT NULL, placed_at INTEGER NOT NULL, asked_at INTEGER NOT NULL,
  from_at INTEGER NOT NULL, until_at INTEGER, expires_at INTEGER NOT NULL, attempts INTEGER NOT NULL DEFAULT 0, next_at INTEGER, state TEXT NOT NULL, call_id TEXT, reached_at INTEGER, ended_at INTEGER, outcome TEXT
) STRICT;
CREATE INDEX callbacks_state ON callbacks(state, next_at);
ALTER TABLE contact_keys ADD COLUMN asking TEXT;
CREATE INDEX callbacks_of ON callbacks(contact_id);

ALTER TABLE hours ADD COLUMN exceptions TEXT NOT NULL DEFAULT '[]';
ALTER TABLE outcome_codes ADD COLUMN rules TEXT NOT NULL DEFAULT '{}';
ALTER TABLE outcome_codes ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
