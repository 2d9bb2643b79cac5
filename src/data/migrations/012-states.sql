-- What each person's state was, since when (floor time): made from the log like contacts and visits, so that a day or a
-- year of it is read without going through everything that happened. A row says what became otherwise: the duty with its
-- reason, or whether they could be reached.
CREATE TABLE person_states (
  person_id TEXT NOT NULL, at INTEGER NOT NULL, seq INTEGER NOT NULL, duty TEXT, reason TEXT, reachable INTEGER, PRIMARY KEY (person_id, at, seq)
) STRICT, WITHOUT ROWID;
INSERT INTO person_states (person_id, at, seq, duty, reason, reachable)
  SELECT json_extract(body, CASE v WHEN 1 THEN '$.personId' ELSE '$[0]' END), floor_at, seq,
    json_extract(body, CASE v WHEN 1 THEN '$.duty' ELSE '$[1]' END), json_extract(body, CASE v WHEN 1 THEN '$.reason' ELSE '$[2]' END), NULL
  FROM events WHERE type = 26;
INSERT INTO person_states (person_id, at, seq, duty, reason, reachable)
  SELECT json_extract(body, CASE v WHEN 1 THEN '$.personId' ELSE '$[0]' END), floor_at, seq, NULL, NULL,
    coalesce(json_extract(body, CASE v WHEN 1 THEN '$.reachable' ELSE '$[1]' END), 0)
  FROM events WHERE type = 27;

-- A kept day is made once more when it is known who of it came back.
ALTER TABLE fact_days ADD COLUMN settled INTEGER NOT NULL DEFAULT 0;
