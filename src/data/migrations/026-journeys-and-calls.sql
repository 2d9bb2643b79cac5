-- One matter over channels: the first contact of the journey that a contact is a part of (its number; null where it is the
-- first itself), and how its customer seemed to feel, judged from their words when it ended.
ALTER TABLE contacts ADD COLUMN part_of INTEGER;
ALTER TABLE contacts ADD COLUMN mood TEXT;
-- What somebody says of it goes before that.
ALTER TABLE contacts ADD COLUMN mood_said TEXT;
ALTER TABLE contacts ADD COLUMN mood_by TEXT;
CREATE INDEX contacts_parts ON contacts(part_of) WHERE part_of IS NOT NULL;

-- How a person's end of a call is (open, muted, held), since when, and for how long its customer was held in all, ms.
ALTER TABLE legs ADD COLUMN line TEXT NOT NULL DEFAULT 'open';
ALTER TABLE legs ADD COLUMN line_since INTEGER;
ALTER TABLE legs ADD COLUMN held_ms INTEGER NOT NULL DEFAULT 0;

-- Replies that somebody keeps for themselves at their Desk.
CREATE TABLE own_replies (id TEXT PRIMARY KEY, person_id TEXT NOT NULL, title TEXT NOT NULL, text TEXT NOT NULL, floor_at INTEGER NOT NULL) STRICT;
CREATE INDEX own_replies_of ON own_replies(person_id);

-- Journeys of contacts that were there before: the first one, and all that the same customer began within a week of it.
CREATE TABLE journeys_made (who TEXT NOT NULL, at INTEGER NOT NULL, no INTEGER NOT NULL, PRIMARY KEY (who, at, no)) STRICT, WITHOUT ROWID;
INSERT INTO journeys_made (who, at, no)
  SELECT coalesce(s.main_id, c.customer_id), c.started_at, c.no FROM contacts c LEFT JOIN customer_stands s ON s.customer_id = c.customer_id;
CREATE TABLE journeys_first (who TEXT NOT NULL, at INTEGER NOT NULL, no INTEGER NOT NULL, PRIMARY KEY (who, at, no)) STRICT, WITHOUT ROWID;
WITH RECURSIVE firsts(who, at, no) AS (
  SELECT w.who, (SELECT at FROM journeys_made WHERE who = w.who ORDER BY at, no LIMIT 1),
      (SELECT no FROM journeys_made WHERE who = w.who ORDER BY at, no LIMIT 1)
    FROM (SELECT DISTINCT who FROM journeys_made) w
  UNION ALL
  -- The last one of each finds nothing more.
  SELECT f.who, (SELECT at FROM journeys_made WHERE who = f.who AND at > f.at + 604800000 ORDER BY at, no LIMIT 1),
      (SELECT no FROM journeys_made WHERE who = f.who AND at > f.at + 604800000 ORDER BY at, no LIMIT 1)
    FROM firsts f WHERE f.at IS NOT NULL
)
INSERT INTO journeys_first (who, at, no) SELECT who, at, no FROM firsts WHERE at IS NOT NULL;
UPDATE contacts SET part_of = (
  SELECT f.no FROM journeys_first f
    WHERE f.who = coalesce((SELECT main_id FROM customer_stands s WHERE s.customer_id = contacts.customer_id), contacts.customer_id)
      AND f.at <= contacts.started_at
    ORDER BY f.at DESC, f.no DESC LIMIT 1
) WHERE no NOT IN (SELECT no FROM journeys_first);
DROP TABLE journeys_made;
DROP TABLE journeys_first;
