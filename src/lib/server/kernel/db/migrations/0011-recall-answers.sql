-- Two customers of one lot may answer in one message.
ALTER TABLE recall_answer
  DROP CONSTRAINT recall_answer_told_by_key_mark_id_outcome_key,
  ADD UNIQUE (told_by, key, case_id, partner_id, mark_id, outcome);

-- What was answered when a case's goods were held, so that the same request is answered the same.
CREATE TABLE recall_hold (
  case_id  bigint NOT NULL REFERENCES recall_case,
  held_by  bigint NOT NULL REFERENCES person,
  key      text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  answer   jsonb NOT NULL,
  held_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (held_by, key)
);
CREATE INDEX recall_hold_case ON recall_hold (case_id);
GRANT SELECT, INSERT ON recall_hold TO earmark_app;
