-- The version whose words this one mends: conversations that began with that one go on with this one.
ALTER TABLE bot_versions ADD COLUMN mends INTEGER;

-- Groups, partner desks, skills, teams and fields that were in use and are not any more: as History keeps them, so that they
-- can be brought back; their names stay for what happened with them.
CREATE TABLE retired_things (
  kind TEXT NOT NULL, id TEXT NOT NULL, name TEXT NOT NULL, value TEXT NOT NULL, real_at INTEGER NOT NULL,
  PRIMARY KEY (kind, id)
) STRICT, WITHOUT ROWID;
