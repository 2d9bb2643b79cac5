-- One customer, however they come: what joins two that began apart, and who stands for whom by that now.
CREATE TABLE customer_ties (id TEXT PRIMARY KEY, customer_id TEXT NOT NULL REFERENCES customers(id), other_id TEXT NOT NULL REFERENCES customers(id), how TEXT NOT NULL, by_person_id TEXT, in_contact_id TEXT, floor_at INTEGER NOT NULL, parted_at INTEGER, parted_by TEXT) STRICT;
CREATE INDEX customer_ties_of ON customer_ties(customer_id);
CREATE INDEX customer_ties_with ON customer_ties(other_id);
CREATE TABLE customer_stands (customer_id TEXT PRIMARY KEY REFERENCES customers(id), main_id TEXT NOT NULL REFERENCES customers(id)) STRICT;
CREATE INDEX customer_stands_of ON customer_stands(main_id);

-- Somebody who said that they are another customer, which nobody has proven: to be looked at by hand.
CREATE TABLE customer_hints (contact_id TEXT PRIMARY KEY REFERENCES contacts(id), other_id TEXT NOT NULL REFERENCES customers(id)) STRICT;

-- What somebody noted of them by hand, and when.
ALTER TABLE customers ADD COLUMN language TEXT;
ALTER TABLE customers ADD COLUMN named_at INTEGER;
CREATE TABLE customer_notes (id TEXT PRIMARY KEY, customer_id TEXT NOT NULL REFERENCES customers(id), person_id TEXT NOT NULL, words TEXT NOT NULL, floor_at INTEGER NOT NULL) STRICT;
CREATE INDEX customer_notes_of ON customer_notes(customer_id);

-- Blocked or not: asked for by one person, decided by another; how often they came since.
CREATE TABLE customer_blocks (customer_id TEXT PRIMARY KEY REFERENCES customers(id), why TEXT NOT NULL, asked_by TEXT NOT NULL, asked_at INTEGER NOT NULL, decided_by TEXT, decided_at INTEGER, came INTEGER NOT NULL DEFAULT 0, came_at INTEGER) STRICT;

-- Customers whose data is to be gone: kept until all of it is, so that a stop in between changes nothing.
CREATE TABLE erasures (customer_id TEXT PRIMARY KEY REFERENCES customers(id), by_person_id TEXT NOT NULL, real_at INTEGER NOT NULL, done_at INTEGER) STRICT;
CREATE INDEX article_questions_text ON article_questions(text);
