-- Goods on the way between sites: ours, and on hand nowhere. Each transfer is a place of its own
-- that is no place to lie at: what of it is still under way is what lies there.
ALTER TABLE place DROP CONSTRAINT place_kind_check;
ALTER TABLE place ADD CONSTRAINT place_kind_check
  CHECK (kind IN ('dock', 'rack', 'bin', 'line', 'quarantine', 'dispatch', 'transit'));

CREATE TABLE transfer (
  id            bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  document      code_text NOT NULL,
  from_site_id  bigint NOT NULL REFERENCES site,
  to_site_id    bigint NOT NULL REFERENCES site,
  place_id      bigint NOT NULL UNIQUE REFERENCES place,
  opened_at     timestamptz NOT NULL DEFAULT clock_timestamp(),
  opened_by     bigint NOT NULL REFERENCES person,
  CONSTRAINT between_two_sites CHECK (from_site_id <> to_site_id)
);
CREATE UNIQUE INDEX transfer_document ON transfer (upper(document));

-- What was booked on it: dispatched, arrived, written off.
CREATE TABLE transfer_event (
  event_id     bigint PRIMARY KEY REFERENCES event,
  transfer_id  bigint NOT NULL REFERENCES transfer
);
CREATE INDEX transfer_event_transfer ON transfer_event (transfer_id);

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON transfer
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON transfer_event
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
GRANT SELECT, INSERT ON transfer, transfer_event TO earmark_app;
