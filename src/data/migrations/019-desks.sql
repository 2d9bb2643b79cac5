-- Contacts of a partner desk, by which its own limits are counted after a start.
CREATE INDEX partner_calls_of_partner ON partner_calls(partner_id, started_at);
