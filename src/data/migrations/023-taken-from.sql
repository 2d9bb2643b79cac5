-- What was taken from customers' conversations to teach or to test by, so that erasing a customer takes it along: a
-- phrase of the phrasebook (`language text`), or a test of a bot (its id).
CREATE TABLE taken_from (kind TEXT NOT NULL, ref TEXT NOT NULL, contact_id TEXT NOT NULL REFERENCES contacts(id), PRIMARY KEY (kind, ref, contact_id)) STRICT, WITHOUT ROWID;
CREATE INDEX taken_from_of ON taken_from(contact_id);
