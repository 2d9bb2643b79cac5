-- What could not be done when it was due: kept with how often it was tried and why it failed
ALTER TABLE timers ADD COLUMN attempts INTEGER NOT NULL DEFAULT 0;
ALTER TABLE timers ADD COLUMN reason TEXT;
CREATE INDEX timers_failed ON timers(seq) WHERE attempts > 0;

-- What is to leave the house. It is written with the change that calls for it, and done once that is kept.
CREATE TABLE outbox (
  id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL CHECK (kind IN ('post', 'ask')), contact_id TEXT, number INTEGER,
  state TEXT NOT NULL CHECK (state IN ('after-contact', 'ready', 'sent', 'answered')), body TEXT NOT NULL, answer TEXT,
  real_at INTEGER NOT NULL, attempts INTEGER NOT NULL DEFAULT 0, reason TEXT
) STRICT;
CREATE INDEX outbox_of ON outbox(contact_id) WHERE contact_id IS NOT NULL;
INSERT INTO outbox (kind, contact_id, state, body, real_at)
  SELECT 'post', contact_id, 'after-contact', json_object('medium', 'text', 'address', address, 'subject', '', 'body', text), 0 FROM later_texts;
DROP TABLE later_texts;

CREATE INDEX partner_calls_of_contact ON partner_calls(contact_id) WHERE ended_at IS NULL;
