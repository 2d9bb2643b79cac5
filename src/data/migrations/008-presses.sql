-- A press that changes more than one turn of the main thread can: its lines are written here in turns and count
-- nowhere until the last of them is in (whole); then they are carried out in turns, and go on after a stop.
CREATE TABLE presses (
  id TEXT PRIMARY KEY, real_at INTEGER NOT NULL, actor TEXT NOT NULL, title TEXT NOT NULL, kind TEXT NOT NULL, thing_id TEXT NOT NULL,
  whole INTEGER NOT NULL DEFAULT 0, lines INTEGER NOT NULL DEFAULT 0, skipped INTEGER NOT NULL DEFAULT 0, reason TEXT
) STRICT;
CREATE TABLE press_lines (
  press_id TEXT NOT NULL REFERENCES presses(id), place INTEGER NOT NULL, kind TEXT NOT NULL, thing_id TEXT NOT NULL, label TEXT NOT NULL,
  before TEXT, after TEXT, undoes INTEGER, PRIMARY KEY (press_id, place)
) STRICT, WITHOUT ROWID;

-- History is asked who occurs in it.
CREATE INDEX history_people ON history(person_id, id);
