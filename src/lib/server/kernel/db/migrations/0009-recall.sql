-- Trace and recall: kept sets of marks, recall cases with their notices and answers, the standing audit, events of other firms.

-- Marks somebody set out to trace together. Never changed: a link to it means the same for ever.
CREATE TABLE trace_set (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  title     text NOT NULL CHECK (length(title) BETWEEN 1 AND 300),
  marks     bigint[] NOT NULL CHECK (cardinality(marks) BETWEEN 1 AND 100000),
  made_by   bigint NOT NULL REFERENCES person,
  made_at   timestamptz NOT NULL DEFAULT clock_timestamp()
);

-- A recall, or the drill of one.
CREATE SEQUENCE recall_number_seq;
CREATE TABLE recall_case (
  id            bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  number        code_text NOT NULL UNIQUE,
  mock          boolean NOT NULL DEFAULT false,
  title         text NOT NULL CHECK (length(title) BETWEEN 1 AND 200),
  -- What is wrong, and what customers are asked to do: these go into the notices.
  hazard        text NOT NULL CHECK (length(btrim(hazard)) BETWEEN 1 AND 4000),
  request       text NOT NULL DEFAULT '' CHECK (length(request) <= 4000),
  -- For a drill: minutes within which all must be found.
  target_minutes integer CHECK (target_minutes > 0),
  opened_by     bigint NOT NULL REFERENCES person,
  -- The caller's idempotency key: a case opened twice is one.
  key           text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  opened_at     timestamptz NOT NULL DEFAULT clock_timestamp(),
  -- The instant the scope was decided; what is known later is compared with it.
  decided_at    timestamptz,
  decided_by    bigint REFERENCES person,
  closed_at     timestamptz,
  closed_by     bigint REFERENCES person,
  closing_reason text CHECK (length(btrim(closing_reason)) BETWEEN 1 AND 2000),
  UNIQUE (opened_by, key),
  CONSTRAINT decided_by_somebody CHECK ((decided_at IS NULL) = (decided_by IS NULL)),
  CONSTRAINT closed_by_somebody CHECK ((closed_at IS NULL) = (closed_by IS NULL)),
  CONSTRAINT closed_once_decided CHECK (closed_at IS NULL OR decided_at IS NOT NULL)
);

CREATE TABLE recall_suspect (
  case_id   bigint NOT NULL REFERENCES recall_case,
  mark_id   bigint NOT NULL REFERENCES mark,
  why       text NOT NULL DEFAULT '' CHECK (length(why) <= 1000),
  PRIMARY KEY (case_id, mark_id)
);
CREATE INDEX recall_suspect_mark ON recall_suspect (mark_id);
CREATE TABLE recall_related (
  case_id   bigint NOT NULL REFERENCES recall_case,
  other_id  bigint NOT NULL REFERENCES recall_case,
  PRIMARY KEY (case_id, other_id),
  CONSTRAINT another_case CHECK (case_id <> other_id)
);

-- The scope as it was when it was decided: what customers had of it, and what lay here. Never changed.
CREATE TABLE recall_scope_customer (
  case_id     bigint NOT NULL REFERENCES recall_case,
  partner_id  bigint NOT NULL REFERENCES partner,
  mark_id     bigint NOT NULL REFERENCES mark,
  event_id    bigint NOT NULL REFERENCES event,
  quantity    quantity NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (case_id, mark_id, event_id)
);
CREATE INDEX recall_scope_partner ON recall_scope_customer (case_id, partner_id);
CREATE TABLE recall_scope_here (
  case_id     bigint NOT NULL REFERENCES recall_case,
  mark_id     bigint NOT NULL REFERENCES mark,
  place_id    bigint NOT NULL REFERENCES place,
  quantity    quantity NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (case_id, mark_id, place_id)
);

-- Letters to customers: the outbox stands in for mail. Content kept as it was sent.
CREATE TABLE recall_notice (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  case_id     bigint NOT NULL REFERENCES recall_case,
  partner_id  bigint NOT NULL REFERENCES partner,
  content     jsonb NOT NULL CHECK (jsonb_typeof(content) = 'object'),
  sent_at     timestamptz NOT NULL DEFAULT clock_timestamp(),
  sent_by     bigint NOT NULL REFERENCES person
);
CREATE INDEX recall_notice_case ON recall_notice (case_id, partner_id);

-- What customers answer: how much of a mark was returned, destroyed with them, used up by them or cannot be found. Added up, never changed.
CREATE TABLE recall_answer (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  case_id     bigint NOT NULL REFERENCES recall_case,
  partner_id  bigint NOT NULL REFERENCES partner,
  mark_id     bigint NOT NULL REFERENCES mark,
  outcome     text NOT NULL CHECK (outcome IN ('returned', 'destroyed', 'written off')),
  quantity    quantity NOT NULL CHECK (quantity <> 0),
  note        text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  key         text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  told_at     timestamptz NOT NULL DEFAULT clock_timestamp(),
  told_by     bigint NOT NULL REFERENCES person,
  UNIQUE (told_by, key, mark_id, outcome),
  CONSTRAINT a_write_off_says_why CHECK (outcome <> 'written off' OR length(btrim(note)) > 0)
);
CREATE INDEX recall_answer_case ON recall_answer (case_id, partner_id);

-- Signed off by two people, each with their password again.
CREATE TABLE recall_signature (
  case_id    bigint NOT NULL REFERENCES recall_case,
  person_id  bigint NOT NULL REFERENCES person,
  signed_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  PRIMARY KEY (case_id, person_id)
);

-- What happened on a case, for its file.
CREATE TABLE recall_log (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  case_id   bigint NOT NULL REFERENCES recall_case,
  at        timestamptz NOT NULL DEFAULT clock_timestamp(),
  by_id     bigint NOT NULL REFERENCES person,
  says      text NOT NULL CHECK (length(says) BETWEEN 1 AND 4000)
);
CREATE INDEX recall_log_case ON recall_log (case_id, id);

-- No answer adds up to more than was in the scope; none is taken back below zero.
CREATE FUNCTION answers_within_scope() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
  broken bigint;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtextextended('recall ' || case_id, 0)) FROM (SELECT DISTINCT case_id FROM new_answers ORDER BY case_id) c;
  SELECT n.mark_id INTO broken FROM (SELECT DISTINCT case_id, partner_id, mark_id FROM new_answers) n
  WHERE (SELECT sum(a.quantity) FROM recall_answer a WHERE a.case_id = n.case_id AND a.partner_id = n.partner_id AND a.mark_id = n.mark_id)
      > coalesce((SELECT sum(s.quantity) FROM recall_scope_customer s WHERE s.case_id = n.case_id AND s.partner_id = n.partner_id AND s.mark_id = n.mark_id), 0)
    OR EXISTS (SELECT FROM recall_answer a WHERE a.case_id = n.case_id AND a.partner_id = n.partner_id AND a.mark_id = n.mark_id GROUP BY a.outcome HAVING sum(a.quantity) < 0) LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION 'answers for mark % do not fit what was in the scope', broken USING ERRCODE = 'check_violation', CONSTRAINT = 'answers_within_scope';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER answers_within_scope AFTER INSERT ON recall_answer REFERENCING NEW TABLE AS new_answers FOR EACH STATEMENT EXECUTE FUNCTION answers_within_scope();

-- The standing audit, a row a day and kind, for its trend.
CREATE TABLE loose_end_count (
  day    date NOT NULL,
  kind   text NOT NULL CHECK (length(kind) BETWEEN 1 AND 60),
  count  integer NOT NULL CHECK (count >= 0),
  PRIMARY KEY (day, kind)
);

-- Events other firms sent, as they sent them; a document sent twice changes nothing.
CREATE TABLE foreign_event (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  event_hash   text NOT NULL UNIQUE CHECK (length(event_hash) BETWEEN 1 AND 400),
  event_id     text CHECK (length(event_id) <= 400),
  type         text NOT NULL CHECK (type IN ('ObjectEvent', 'AggregationEvent', 'TransactionEvent', 'TransformationEvent', 'AssociationEvent')),
  event_time   timestamptz NOT NULL,
  biz_step     text,
  action       text,
  read_point   text,
  biz_location text,
  body         jsonb NOT NULL,
  sender       text NOT NULL DEFAULT '' CHECK (length(sender) <= 300),
  captured_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  captured_by  bigint NOT NULL REFERENCES person
);
CREATE INDEX foreign_event_time ON foreign_event (event_time, id);
-- What each of them names, joined with our marks by their identifier. role: input, output, epc, parent, child.
CREATE TABLE foreign_epc (
  foreign_id  bigint NOT NULL REFERENCES foreign_event,
  role        text NOT NULL CHECK (role IN ('epc', 'input', 'output', 'parent', 'child')),
  epc         text NOT NULL CHECK (length(epc) BETWEEN 1 AND 400),
  quantity    numeric,
  uom         text,
  PRIMARY KEY (foreign_id, role, epc)
);
CREATE INDEX foreign_epc_epc ON foreign_epc (epc);

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['trace_set', 'recall_suspect', 'recall_scope_customer', 'recall_scope_here', 'recall_notice', 'recall_answer', 'recall_signature', 'recall_log', 'foreign_event', 'foreign_epc'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;

GRANT SELECT, INSERT ON trace_set, recall_suspect, recall_related, recall_scope_customer, recall_scope_here, recall_notice, recall_answer, recall_signature, recall_log, foreign_event, foreign_epc TO earmark_app;
GRANT SELECT, INSERT, UPDATE ON recall_case, loose_end_count TO earmark_app;
GRANT DELETE ON recall_related TO earmark_app;
GRANT USAGE ON SEQUENCE recall_number_seq TO earmark_app;
