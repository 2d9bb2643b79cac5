-- Settings
CREATE TABLE workspace (id INTEGER PRIMARY KEY CHECK (id = 1), name TEXT NOT NULL, zone TEXT NOT NULL, languages TEXT NOT NULL) STRICT;
CREATE TABLE floor_clock (id INTEGER PRIMARY KEY CHECK (id = 1), real_at INTEGER NOT NULL, floor_at INTEGER NOT NULL, rate REAL NOT NULL) STRICT;
CREATE TABLE settings_versions (version INTEGER PRIMARY KEY, real_at INTEGER NOT NULL, kind TEXT NOT NULL, thing_id TEXT NOT NULL) STRICT;

CREATE TABLE teams (id TEXT PRIMARY KEY, name TEXT NOT NULL, zone TEXT NOT NULL, place INTEGER NOT NULL) STRICT;
CREATE TABLE skills (id TEXT PRIMARY KEY, name TEXT NOT NULL, kind TEXT NOT NULL, place INTEGER NOT NULL) STRICT;
CREATE TABLE team_skills (team_id TEXT NOT NULL REFERENCES teams(id), skill_id TEXT NOT NULL REFERENCES skills(id), level INTEGER NOT NULL CHECK (level BETWEEN 1 AND 5), PRIMARY KEY (team_id, skill_id)) STRICT, WITHOUT ROWID;
CREATE TABLE duty_profiles (id TEXT PRIMARY KEY, name TEXT NOT NULL, body TEXT NOT NULL, revision INTEGER NOT NULL) STRICT;
CREATE TABLE people (
  id TEXT PRIMARY KEY, name TEXT NOT NULL, shown_name TEXT NOT NULL, email TEXT NOT NULL UNIQUE, team_id TEXT NOT NULL REFERENCES teams(id),
  role TEXT NOT NULL CHECK (role IN ('owner','lead','supervisor','agent')), active INTEGER NOT NULL DEFAULT 1, simulated INTEGER NOT NULL DEFAULT 0,
  duty_profile_id TEXT NOT NULL REFERENCES duty_profiles(id), most TEXT NOT NULL DEFAULT '{}', password TEXT, revision INTEGER NOT NULL,
  duty TEXT NOT NULL DEFAULT 'off', duty_reason TEXT, duty_since INTEGER NOT NULL DEFAULT 0, last_contact_at INTEGER
) STRICT;
CREATE UNIQUE INDEX one_owner ON people(role) WHERE role = 'owner';
CREATE TABLE team_supervisors (team_id TEXT NOT NULL REFERENCES teams(id), person_id TEXT NOT NULL REFERENCES people(id), PRIMARY KEY (team_id, person_id)) STRICT, WITHOUT ROWID;
CREATE TABLE person_skills (person_id TEXT NOT NULL REFERENCES people(id), skill_id TEXT NOT NULL REFERENCES skills(id), level INTEGER NOT NULL CHECK (level BETWEEN 1 AND 5), PRIMARY KEY (person_id, skill_id)) STRICT, WITHOUT ROWID;

CREATE TABLE queues (id TEXT PRIMARY KEY, name TEXT NOT NULL, place INTEGER NOT NULL, revision INTEGER NOT NULL) STRICT;
CREATE TABLE queue_versions (queue_id TEXT NOT NULL REFERENCES queues(id), version INTEGER NOT NULL REFERENCES settings_versions(version), body TEXT NOT NULL, PRIMARY KEY (queue_id, version)) STRICT, WITHOUT ROWID;
CREATE TABLE hours (id TEXT PRIMARY KEY, name TEXT NOT NULL, zone TEXT NOT NULL, weekly TEXT NOT NULL, revision INTEGER NOT NULL) STRICT;
CREATE TABLE bots (id TEXT PRIMARY KEY, name TEXT NOT NULL, draft TEXT NOT NULL, live_version INTEGER, revision INTEGER NOT NULL, place INTEGER NOT NULL) STRICT;
CREATE TABLE bot_versions (bot_id TEXT NOT NULL REFERENCES bots(id), version INTEGER NOT NULL, script TEXT NOT NULL, note TEXT NOT NULL, real_at INTEGER NOT NULL, person_id TEXT NOT NULL, PRIMARY KEY (bot_id, version)) STRICT, WITHOUT ROWID;
CREATE TABLE doors (id TEXT PRIMARY KEY, name TEXT NOT NULL, channel TEXT NOT NULL, address TEXT NOT NULL, hours_id TEXT NOT NULL REFERENCES hours(id), bot_id TEXT NOT NULL REFERENCES bots(id), languages TEXT NOT NULL, closed_wording TEXT NOT NULL, place INTEGER NOT NULL, revision INTEGER NOT NULL) STRICT;
CREATE UNIQUE INDEX door_address ON doors(channel, address);
CREATE TABLE fields (id TEXT PRIMARY KEY, name TEXT NOT NULL UNIQUE, label TEXT NOT NULL, private INTEGER NOT NULL, place INTEGER NOT NULL) STRICT;
CREATE TABLE outcome_codes (code TEXT PRIMARY KEY, label TEXT NOT NULL, place INTEGER NOT NULL) STRICT;
CREATE TABLE history (id INTEGER PRIMARY KEY, real_at INTEGER NOT NULL, person_id TEXT NOT NULL, kind TEXT NOT NULL, thing_id TEXT NOT NULL, before TEXT, after TEXT) STRICT;
CREATE INDEX history_of ON history(kind, thing_id, id);

-- What happened
CREATE TABLE events (seq INTEGER PRIMARY KEY AUTOINCREMENT, type TEXT NOT NULL, v INTEGER NOT NULL, floor_at INTEGER NOT NULL, real_at INTEGER NOT NULL, contact_id TEXT, body TEXT NOT NULL) STRICT;
CREATE INDEX events_of_contact ON events(contact_id, seq) WHERE contact_id IS NOT NULL;
CREATE TABLE customers (id TEXT PRIMARY KEY, channel TEXT NOT NULL, address TEXT NOT NULL, name TEXT, UNIQUE (channel, address)) STRICT;
CREATE TABLE contacts (
  id TEXT PRIMARY KEY, door_id TEXT NOT NULL, channel TEXT NOT NULL, customer_id TEXT NOT NULL REFERENCES customers(id), language TEXT NOT NULL,
  bot_id TEXT, bot_version INTEGER, started_at INTEGER NOT NULL, ended_at INTEGER, ended_how TEXT
) STRICT;
CREATE INDEX contacts_started ON contacts(started_at);
CREATE INDEX contacts_open ON contacts(id) WHERE ended_at IS NULL;
CREATE INDEX contacts_of_customer ON contacts(customer_id, started_at);
CREATE TABLE contact_keys (contact_id TEXT PRIMARY KEY REFERENCES contacts(id), token_hash TEXT NOT NULL, bot_state TEXT) STRICT;
CREATE TABLE messages (id TEXT PRIMARY KEY, seq INTEGER NOT NULL, contact_id TEXT NOT NULL REFERENCES contacts(id), sender TEXT NOT NULL, person_id TEXT, line_id TEXT, text TEXT NOT NULL, options TEXT NOT NULL DEFAULT '[]', floor_at INTEGER NOT NULL) STRICT;
CREATE INDEX messages_of ON messages(contact_id, seq);
CREATE TABLE contact_values (contact_id TEXT NOT NULL REFERENCES contacts(id), name TEXT NOT NULL, value TEXT NOT NULL, PRIMARY KEY (contact_id, name)) STRICT, WITHOUT ROWID;
CREATE TABLE private_values (id TEXT PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), name TEXT NOT NULL, value TEXT NOT NULL) STRICT;
CREATE INDEX private_values_of ON private_values(contact_id);
CREATE TABLE visits (
  id TEXT PRIMARY KEY, entry INTEGER NOT NULL, contact_id TEXT NOT NULL REFERENCES contacts(id), queue_id TEXT NOT NULL, channel TEXT NOT NULL, settings_version INTEGER NOT NULL,
  placed_at INTEGER NOT NULL, entered_at INTEGER NOT NULL, ended_at INTEGER, ended_how TEXT, needs TEXT NOT NULL, priority INTEGER NOT NULL, goal_seconds INTEGER NOT NULL
) STRICT;
CREATE INDEX visits_entered ON visits(entered_at);
CREATE INDEX visits_of ON visits(contact_id);
CREATE INDEX visits_open ON visits(entry) WHERE ended_at IS NULL;
CREATE TABLE offers (id TEXT PRIMARY KEY, visit_id TEXT NOT NULL REFERENCES visits(id), person_id TEXT NOT NULL, made_at INTEGER NOT NULL, accept_by INTEGER NOT NULL, ended_at INTEGER, ended_how TEXT) STRICT;
CREATE INDEX offers_of ON offers(visit_id);
CREATE INDEX offers_open ON offers(person_id) WHERE ended_at IS NULL;
CREATE TABLE legs (
  id TEXT PRIMARY KEY, contact_id TEXT NOT NULL REFERENCES contacts(id), visit_id TEXT NOT NULL REFERENCES visits(id), person_id TEXT NOT NULL, accepted_at INTEGER NOT NULL,
  talk_ended_at INTEGER, ended_at INTEGER, passed_on INTEGER NOT NULL DEFAULT 0, first_reply_at INTEGER, outcome TEXT, handle_seconds REAL
) STRICT;
CREATE INDEX legs_ended ON legs(ended_at);
CREATE INDEX legs_of ON legs(contact_id);
CREATE INDEX legs_open ON legs(person_id) WHERE ended_at IS NULL;
CREATE TABLE decisions (id INTEGER PRIMARY KEY, visit_id TEXT NOT NULL REFERENCES visits(id), trail TEXT NOT NULL) STRICT;
CREATE INDEX decisions_of ON decisions(visit_id);

-- Running it
CREATE TABLE timers (seq INTEGER PRIMARY KEY, clock TEXT NOT NULL CHECK (clock IN ('real','floor')), due_at INTEGER NOT NULL, kind TEXT NOT NULL, thing_id TEXT NOT NULL, UNIQUE (kind, thing_id)) STRICT;
CREATE INDEX timers_due ON timers(clock, due_at, seq);
CREATE TABLE sessions (token_hash TEXT PRIMARY KEY, person_id TEXT NOT NULL REFERENCES people(id), real_at INTEGER NOT NULL, until INTEGER NOT NULL) STRICT;
CREATE INDEX sessions_of ON sessions(person_id);
CREATE TABLE acts (key TEXT PRIMARY KEY, real_at INTEGER NOT NULL, request TEXT NOT NULL, answer TEXT NOT NULL) STRICT;
CREATE INDEX acts_age ON acts(real_at);
