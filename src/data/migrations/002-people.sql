-- Small settings that are read and written whole: sites, skill sets, roles, shifts, desk profiles, away reasons, stock replies, kept filters.
CREATE TABLE documents (kind TEXT NOT NULL, id TEXT NOT NULL, name TEXT NOT NULL, place INTEGER NOT NULL, body TEXT NOT NULL, revision INTEGER NOT NULL, PRIMARY KEY (kind, id)) STRICT, WITHOUT ROWID;

ALTER TABLE teams ADD COLUMN set_ids TEXT NOT NULL DEFAULT '[]';
ALTER TABLE teams ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
ALTER TABLE skills ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;

-- A role is built in or a document; which one somebody has is checked where it is given.
DROP INDEX one_owner;
ALTER TABLE people ADD COLUMN role_id TEXT NOT NULL DEFAULT 'agent';
UPDATE people SET role_id = role;
ALTER TABLE people DROP COLUMN role;
CREATE UNIQUE INDEX one_owner ON people(role_id) WHERE role_id = 'owner';
ALTER TABLE people ADD COLUMN also_team_ids TEXT NOT NULL DEFAULT '[]';
ALTER TABLE people ADD COLUMN set_ids TEXT NOT NULL DEFAULT '[]';
ALTER TABLE people ADD COLUMN site_id TEXT;
ALTER TABLE people ADD COLUMN outbound TEXT NOT NULL DEFAULT '';
-- Another duty profile for now, until an instant of the floor.
ALTER TABLE people ADD COLUMN now_profile_id TEXT REFERENCES duty_profiles(id);
ALTER TABLE people ADD COLUMN now_until INTEGER;
-- Today's way of being reached for voice; null is the Desk.
ALTER TABLE people ADD COLUMN voice_way_id TEXT;
-- Switched off with the last open contact.
ALTER TABLE people ADD COLUMN leaving INTEGER NOT NULL DEFAULT 0;

-- Level 0 says never, whatever teams and sets give. `until` is the last day (YYYY-MM-DD, the person's zone) on which the skill counts.
CREATE TABLE own_levels (person_id TEXT NOT NULL REFERENCES people(id), skill_id TEXT NOT NULL REFERENCES skills(id), level INTEGER NOT NULL CHECK (level BETWEEN 0 AND 5), until TEXT, note TEXT NOT NULL DEFAULT '', PRIMARY KEY (person_id, skill_id)) STRICT, WITHOUT ROWID;
INSERT INTO own_levels (person_id, skill_id, level) SELECT person_id, skill_id, level FROM person_skills;
DROP TABLE person_skills;
CREATE INDEX own_levels_of_skill ON own_levels(skill_id);

CREATE TABLE reach_ways (
  id TEXT PRIMARY KEY, person_id TEXT NOT NULL REFERENCES people(id), kind TEXT NOT NULL, address TEXT NOT NULL, may_call INTEGER NOT NULL, may_send_text INTEGER NOT NULL, may_receive_text INTEGER NOT NULL,
  code_hash TEXT, code_until INTEGER, tries INTEGER NOT NULL DEFAULT 0, verified_at INTEGER, UNIQUE (person_id, kind, address)
) STRICT;
CREATE TABLE invitations (id TEXT PRIMARY KEY, person_id TEXT NOT NULL REFERENCES people(id), token_hash TEXT NOT NULL UNIQUE, sent_at INTEGER NOT NULL, until INTEGER NOT NULL, ended_at INTEGER, ended_how TEXT) STRICT;
CREATE INDEX invitations_of ON invitations(person_id, sent_at);
-- What the product sent to the world outside; the stand-ins show it where no real service is connected.
CREATE TABLE outside_messages (id INTEGER PRIMARY KEY, real_at INTEGER NOT NULL, medium TEXT NOT NULL, address TEXT NOT NULL, subject TEXT NOT NULL, body TEXT NOT NULL) STRICT;
CREATE INDEX outside_messages_to ON outside_messages(address, id);

-- `batch` ties changes made by one press; `label` is what the thing was called; an undone change names the one that undid it.
ALTER TABLE history ADD COLUMN batch TEXT;
ALTER TABLE history ADD COLUMN label TEXT NOT NULL DEFAULT '';
ALTER TABLE history ADD COLUMN undone_by INTEGER;
CREATE INDEX history_batch ON history(batch) WHERE batch IS NOT NULL;
