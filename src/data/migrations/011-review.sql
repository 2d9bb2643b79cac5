-- Whether a contact began within the opening hours of its door; null where that was not kept.
ALTER TABLE contacts ADD COLUMN open INTEGER;

-- Which team somebody was in, since when (floor time: after the last thing that had happened by then). Kept by the
-- database itself, so that no way of moving somebody is forgotten. What was before this was kept is as it is now.
CREATE TABLE team_spells (
  person_id TEXT NOT NULL REFERENCES people(id) ON DELETE CASCADE, from_at INTEGER NOT NULL, team_id TEXT NOT NULL, PRIMARY KEY (person_id, from_at)
) STRICT, WITHOUT ROWID;
INSERT INTO team_spells (person_id, from_at, team_id) SELECT id, 0, team_id FROM people;
CREATE TRIGGER people_come AFTER INSERT ON people BEGIN
  INSERT INTO team_spells (person_id, from_at, team_id) VALUES (new.id, 0, new.team_id);
END;
CREATE TRIGGER people_move AFTER UPDATE OF team_id ON people WHEN new.team_id <> old.team_id BEGIN
  -- Twice between two things that happen: the later counts.
  DELETE FROM team_spells WHERE person_id = new.id AND from_at >=
    1 + max(coalesce((SELECT floor_at FROM events ORDER BY seq DESC LIMIT 1), 0), coalesce((SELECT max(accepted_at) FROM legs), 0));
  INSERT INTO team_spells (person_id, from_at, team_id) VALUES (
    new.id,
    1 + max(coalesce((SELECT floor_at FROM events ORDER BY seq DESC LIMIT 1), 0), coalesce((SELECT max(accepted_at) FROM legs), 0)),
    new.team_id
  );
END;

-- Days that are over, as columns of whole numbers (core/measures/columns.ts): what Review counts. Each is made from the
-- tables beside it, as they were at a place in the log; the contacts that were still open then may change it. Can be
-- emptied at any time: what is missing is made again.
CREATE TABLE fact_days (from_at INTEGER PRIMARY KEY, to_at INTEGER NOT NULL, shape INTEGER NOT NULL, seq INTEGER NOT NULL, open_contacts TEXT NOT NULL) STRICT;
CREATE TABLE fact_columns (
  day INTEGER NOT NULL REFERENCES fact_days(from_at) ON DELETE CASCADE, part TEXT NOT NULL, name TEXT NOT NULL, kind TEXT NOT NULL, entries TEXT, data BLOB NOT NULL,
  UNIQUE (day, part, name)
) STRICT;
