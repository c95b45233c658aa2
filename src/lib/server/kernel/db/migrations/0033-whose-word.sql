-- Whose word a booking is: a token is made by somebody, ends, and is kept with what it books; a password somebody else
-- set is not yet its person's own.
ALTER TABLE api_token
  ADD COLUMN made_by bigint REFERENCES person,
  ADD COLUMN expires_at timestamptz,
  ADD COLUMN last_used_at timestamptz;
GRANT UPDATE (last_used_at) ON api_token TO earmark_app;

ALTER TABLE person
  ADD COLUMN password_set_at timestamptz,
  ADD COLUMN password_set_by bigint REFERENCES person;

ALTER TABLE event ADD COLUMN token_id bigint REFERENCES api_token;
GRANT INSERT (token_id) ON event TO earmark_app;
