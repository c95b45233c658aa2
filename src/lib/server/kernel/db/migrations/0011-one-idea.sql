-- One idea, one place: what was not taken back, and what counts of a mark that lies within a lot.

-- Transformations that hold: those no reversal took back.
CREATE VIEW live_transformation AS
SELECT t.*
FROM transformation t
WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id);

-- What counts of a mark: it is rejected or held where it or its lot is, and expires with its lot
-- where it has no date of its own.
CREATE VIEW mark_effective AS
SELECT m.id, m.product_id, m.kind, m.number, m.lot_id,
  CASE
    WHEN 'rejected' IN (m.state, l.state) THEN 'rejected'
    WHEN 'held' IN (m.state, l.state) THEN 'held'
    ELSE m.state
  END AS state,
  coalesce(m.expires_on, l.expires_on) AS expires_on,
  coalesce(m.retest_on, l.retest_on) AS retest_on
FROM mark m
  LEFT JOIN mark l ON l.id = m.lot_id;

GRANT SELECT ON live_transformation, mark_effective TO earmark_app;

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
