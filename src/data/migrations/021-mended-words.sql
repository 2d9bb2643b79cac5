-- The version whose words this one mends: conversations that began with that one go on with this one.
ALTER TABLE bot_versions ADD COLUMN mends INTEGER;
