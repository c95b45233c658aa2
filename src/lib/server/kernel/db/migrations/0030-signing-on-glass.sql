-- Who took goods over, or handed them in, signs on the glass of a phone: kept with the event of the
-- document, as it was drawn.
CREATE TABLE glass_signature (
  event_id  bigint PRIMARY KEY REFERENCES event,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  png       bytea NOT NULL CHECK (length(png) BETWEEN 1 AND 300000),
  signed_at timestamptz NOT NULL DEFAULT clock_timestamp(),
  -- Who held the phone.
  taken_by  bigint NOT NULL REFERENCES person
);
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON glass_signature
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT, INSERT ON glass_signature TO earmark_app;
