-- Who came in or was refused, who changed people, tokens, plans and settings, who took files away. Added to only.
CREATE TABLE security_log (
  id         bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  at         timestamptz NOT NULL DEFAULT clock_timestamp(),
  kind       text NOT NULL CHECK (kind IN ('signed in', 'sign-in refused', 'signed out', 'refused', 'changed', 'file taken')),
  person_id  bigint REFERENCES person,
  token_id   bigint REFERENCES api_token,
  -- What was given as a name where nobody is known by it, or it was not they.
  login      text NOT NULL DEFAULT '' CHECK (length(login) <= 100),
  address    text NOT NULL DEFAULT '' CHECK (length(address) <= 100),
  about      text NOT NULL DEFAULT '' CHECK (length(about) <= 300)
);
CREATE INDEX security_log_person ON security_log (person_id, id);
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON security_log
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT, INSERT ON security_log TO earmark_app;
