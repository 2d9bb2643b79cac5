-- A contact's number is the place in the log at which it began: it stands for the contact wherever many rows do.
CREATE TABLE contacts_now (
  no INTEGER PRIMARY KEY, id TEXT NOT NULL UNIQUE, door_id TEXT NOT NULL, channel TEXT NOT NULL, customer_id TEXT NOT NULL REFERENCES customers(id),
  language TEXT NOT NULL, bot_id TEXT, bot_version INTEGER, started_at INTEGER NOT NULL, ended_at INTEGER, ended_how TEXT
) STRICT;
INSERT INTO contacts_now (no, id, door_id, channel, customer_id, language, bot_id, bot_version, started_at, ended_at, ended_how)
  SELECT coalesce((SELECT min(e.seq) FROM events e WHERE e.contact_id = c.id AND e.type = 'contact.started'), -c.rowid),
    id, door_id, channel, customer_id, language, bot_id, bot_version, started_at, ended_at, ended_how FROM contacts c;
DROP TABLE contacts;
ALTER TABLE contacts_now RENAME TO contacts;
CREATE INDEX contacts_started ON contacts(started_at);
CREATE INDEX contacts_of_customer ON contacts(customer_id, started_at);

-- Events by number of their type (core/eventshapes.ts); the second clock only where it said otherwise. What was kept until
-- now keeps its version.
CREATE TABLE events_now (
  seq INTEGER PRIMARY KEY AUTOINCREMENT, type INTEGER NOT NULL, v INTEGER NOT NULL, floor_at INTEGER NOT NULL, real_at INTEGER, contact INTEGER, body TEXT
) STRICT;
INSERT INTO events_now (seq, type, v, floor_at, real_at, contact, body)
  SELECT e.seq,
    CASE e.type WHEN 'contact.started' THEN 1 WHEN 'message.written' THEN 2 WHEN 'bot.heard' THEN 3 WHEN 'bot.asked' THEN 4
      WHEN 'bot.texted' THEN 5 WHEN 'contact.language' THEN 6 WHEN 'value.set' THEN 7 WHEN 'bot.started' THEN 8
      WHEN 'bot.finished' THEN 9 WHEN 'visit.began' THEN 10 WHEN 'visit.staged' THEN 11 WHEN 'visit.opened' THEN 12
      WHEN 'visit.asked' THEN 13 WHEN 'visit.ended' THEN 14 WHEN 'partner.dialled' THEN 15 WHEN 'partner.answered' THEN 16
      WHEN 'partner.ended' THEN 17 WHEN 'callback.changed' THEN 18 WHEN 'offer.made' THEN 19 WHEN 'offer.ended' THEN 20
      WHEN 'leg.began' THEN 21 WHEN 'leg.wrapping' THEN 22 WHEN 'leg.filed' THEN 23 WHEN 'leg.ended' THEN 24
      WHEN 'contact.ended' THEN 25 WHEN 'person.duty' THEN 26 WHEN 'person.reach' THEN 27 WHEN 'settings.changed' THEN 28 END,
    e.v, e.floor_at, nullif(e.real_at, e.floor_at), c.no, e.body
  FROM events e LEFT JOIN contacts c ON c.id = e.contact_id ORDER BY e.seq;
DROP TABLE events;
ALTER TABLE events_now RENAME TO events;
CREATE INDEX events_of_contact ON events(contact, type) WHERE contact IS NOT NULL;
-- The ways that customers took through bots, for the map.
CREATE INDEX events_of_bots ON events(floor_at) WHERE type = 9;

-- What was said, by the event that says who said it and when. An empty column is what it usually is.
CREATE TABLE messages_now (seq INTEGER PRIMARY KEY, text TEXT NOT NULL, options TEXT, ssml TEXT, may_interrupt INTEGER, image TEXT) STRICT;
INSERT INTO messages_now (seq, text, options, ssml, may_interrupt, image)
  SELECT seq, text, nullif(options, '[]'), ssml, nullif(may_interrupt, 1), image FROM messages;
DROP TABLE messages;
ALTER TABLE messages_now RENAME TO messages;

-- Trails are deflated from now on (data/trails.ts); those kept until now stay as they are. People have small numbers in them.
CREATE TABLE decisions_now (id INTEGER PRIMARY KEY, visit_id TEXT NOT NULL REFERENCES visits(id), trail ANY NOT NULL) STRICT;
INSERT INTO decisions_now (id, visit_id, trail) SELECT id, visit_id, trail FROM decisions;
DROP TABLE decisions;
ALTER TABLE decisions_now RENAME TO decisions;
CREATE INDEX decisions_of ON decisions(visit_id);
CREATE TABLE trail_people (no INTEGER PRIMARY KEY, person_id TEXT NOT NULL UNIQUE) STRICT;

-- The life of a contact that has been over for a while: its events, what was said and the trails, in one deflated row
-- (data/packed.ts). Private values stay where they are.
CREATE TABLE packed_contacts (no INTEGER PRIMARY KEY REFERENCES contacts(no), life BLOB NOT NULL) STRICT;

-- What is taken out of the full text of articles leaves nothing behind in it.
INSERT INTO article_words(article_words, rank) VALUES('secure-delete', 1);
