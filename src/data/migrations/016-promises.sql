-- Calls that were promised are counted by when they were asked for.
CREATE INDEX callbacks_asked ON callbacks(asked_at);
