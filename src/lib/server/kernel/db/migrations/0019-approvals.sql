-- A second person's word, given with their password: for these faults of this document, to this person, for an hour.
CREATE TABLE approval (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  secret_hash  bytea NOT NULL UNIQUE,
  approved_by  bigint NOT NULL REFERENCES person,
  asked_by     bigint NOT NULL REFERENCES person,
  document     code_text NOT NULL,
  -- What was approved: code, number and message of each fault as it was shown.
  faults       jsonb NOT NULL CHECK (jsonb_typeof(faults) = 'array' AND jsonb_array_length(faults) > 0),
  reason       text NOT NULL CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  approved_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  CONSTRAINT approved_by_another CHECK (approved_by <> asked_by)
);

ALTER TABLE booking_remark
  DROP CONSTRAINT booking_remark_answer_check,
  DROP CONSTRAINT reason_where_due,
  ADD COLUMN approval_id bigint REFERENCES approval,
  ADD CONSTRAINT booking_remark_answer_check CHECK (answer IN ('second person', 'reason', 'note')),
  ADD CONSTRAINT reason_where_due CHECK ((answer <> 'note') = (reason IS NOT NULL)),
  ADD CONSTRAINT approved_where_due CHECK ((answer = 'second person') = (approval_id IS NOT NULL));
CREATE INDEX booking_remark_approval ON booking_remark (approval_id) WHERE approval_id IS NOT NULL;

-- What a promise or a pick list went on in spite of: it counts for what is booked for the order later.
CREATE TABLE promise_remark (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  order_id     bigint NOT NULL REFERENCES trade_order,
  code         text NOT NULL,
  answer       text NOT NULL CHECK (answer IN ('second person', 'reason', 'note')),
  number       text,
  message      text NOT NULL,
  reason       text CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  approval_id  bigint REFERENCES approval,
  promised_by  bigint NOT NULL REFERENCES person,
  promised_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  CONSTRAINT reason_where_due CHECK ((answer <> 'note') = (reason IS NOT NULL)),
  CONSTRAINT approved_where_due CHECK ((answer = 'second person') = (approval_id IS NOT NULL))
);
CREATE INDEX promise_remark_order ON promise_remark (order_id);

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['approval', 'promise_remark'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;
GRANT SELECT, INSERT ON approval, promise_remark TO earmark_app;
