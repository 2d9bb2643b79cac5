-- What a kept day is by one key, counted: long ranges are added up from these.
CREATE TABLE fact_rollups (
  day INTEGER NOT NULL REFERENCES fact_days(from_at) ON DELETE CASCADE, key TEXT NOT NULL, piece TEXT NOT NULL, counted TEXT NOT NULL,
  UNIQUE (day, key, piece)
) STRICT;
-- What customers were told first of how long they would wait.
ALTER TABLE visits ADD COLUMN told_at INTEGER;
ALTER TABLE visits ADD COLUMN told_seconds INTEGER;
