-- That a person's turn with a contact was in front of them, as their Desk said it: floor time and real time. Made from the log.
CREATE TABLE leg_fronts (
  leg_id TEXT NOT NULL, from_at INTEGER NOT NULL, to_at INTEGER NOT NULL, real_from INTEGER NOT NULL, real_to INTEGER NOT NULL, PRIMARY KEY (leg_id, from_at)
) STRICT, WITHOUT ROWID;
-- Whether the handle time of a turn is the time that it was in front, rather than made from what was said.
ALTER TABLE legs ADD COLUMN in_front INTEGER NOT NULL DEFAULT 0;
