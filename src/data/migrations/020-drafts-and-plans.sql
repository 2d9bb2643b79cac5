-- What somebody is changing and has not applied: a thing's kind and id ('' for a new one), the version it began from, and
-- how it is to be. Both as History keeps that kind.
CREATE TABLE drafts (
  person_id TEXT NOT NULL REFERENCES people(id) ON DELETE CASCADE,
  kind TEXT NOT NULL,
  thing_id TEXT NOT NULL,
  label TEXT NOT NULL,
  revision INTEGER NOT NULL,
  base TEXT NOT NULL,
  mine TEXT NOT NULL,
  turn INTEGER NOT NULL,
  real_at INTEGER NOT NULL,
  PRIMARY KEY (person_id, kind, thing_id)
) STRICT, WITHOUT ROWID;

-- Changes that begin by themselves, and may end so. `before` and `after` are what the beginning found and made.
CREATE TABLE plans (
  id TEXT PRIMARY KEY,
  person_id TEXT NOT NULL,
  kind TEXT NOT NULL,
  thing_id TEXT NOT NULL,
  label TEXT NOT NULL,
  note TEXT NOT NULL,
  base TEXT NOT NULL,
  mine TEXT NOT NULL,
  from_at INTEGER NOT NULL,
  until_at INTEGER,
  state TEXT NOT NULL,
  reason TEXT,
  before TEXT,
  after TEXT,
  real_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- What has been in use is retired instead of deleted: real ms; nothing where it is in use.
ALTER TABLE queues ADD COLUMN retired_at INTEGER;
ALTER TABLE doors ADD COLUMN retired_at INTEGER;
ALTER TABLE bots ADD COLUMN retired_at INTEGER;
