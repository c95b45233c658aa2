-- Receiving in depth: marking plans with their versions, units and measures of products, announced numbers, amendments of
-- numbers and facts, what a booking went on in spite of, and labels.

CREATE TABLE marking_plan (
  id    bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  code  code_text NOT NULL,
  name  text NOT NULL CHECK (length(name) BETWEEN 1 AND 200)
);
CREATE UNIQUE INDEX marking_plan_code ON marking_plan (upper(code));

-- A plan is never changed: every change is a new version, so that an old booking is explained by the plan of its day.
CREATE TABLE marking_plan_version (
  id       bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  plan_id  bigint NOT NULL REFERENCES marking_plan,
  version  integer NOT NULL CHECK (version > 0),
  body     jsonb NOT NULL CHECK (jsonb_typeof(body) = 'object'),
  made_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  made_by  bigint NOT NULL REFERENCES person,
  UNIQUE (plan_id, version)
);

ALTER TABLE product
  ADD COLUMN plan_id bigint REFERENCES marking_plan,
  ADD COLUMN gross_weight_kg quantity CHECK (gross_weight_kg >= 0),
  ADD COLUMN length_cm quantity CHECK (length_cm > 0),
  ADD COLUMN width_cm quantity CHECK (width_cm > 0),
  ADD COLUMN height_cm quantity CHECK (height_cm > 0),
  -- How much more than ordered may come in, in per cent of the line.
  ADD COLUMN over_receipt_percent numeric(6, 3) NOT NULL DEFAULT 0 CHECK (over_receipt_percent BETWEEN 0 AND 100);

-- Other units a product is counted in: a pack holds so many of its own unit, and may have a GTIN of its own.
CREATE TABLE product_unit (
  product_id  bigint NOT NULL REFERENCES product,
  name        text NOT NULL CHECK (length(name) BETWEEN 1 AND 20),
  holds       quantity NOT NULL CHECK (holds > 0),
  gtin        text CHECK (gtin ~ '^[0-9]{14}$'),
  PRIMARY KEY (product_id, name)
);
CREATE UNIQUE INDEX product_unit_gtin ON product_unit (gtin) WHERE gtin IS NOT NULL;

-- A line as it was entered, where that was in another unit; quantity stays in the product's own.
ALTER TABLE order_line
  ADD COLUMN unit text CHECK (length(unit) BETWEEN 1 AND 20),
  ADD COLUMN unit_quantity quantity CHECK (unit_quantity > 0),
  ADD COLUMN over_percent numeric(6, 3) CHECK (over_percent BETWEEN 0 AND 100);

-- Numbers the supplier announced ahead, ticked off when they arrive.
CREATE TABLE announced_number (
  id               bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  order_id         bigint NOT NULL REFERENCES trade_order,
  line             integer NOT NULL,
  lot              code_text,
  serial           code_text,
  quantity         quantity CHECK (quantity > 0),
  expires_on       date,
  supplier_number  text CHECK (length(supplier_number) BETWEEN 1 AND 100),
  CONSTRAINT names_something CHECK (lot IS NOT NULL OR serial IS NOT NULL)
);
CREATE INDEX announced_number_order ON announced_number (order_id, line);
CREATE INDEX announced_number_serial ON announced_number (upper(serial)) WHERE serial IS NOT NULL;   -- the scan field

-- By which version of its plan each product of an event was decided.
CREATE TABLE event_plan (
  event_id    bigint NOT NULL REFERENCES event,
  product_id  bigint NOT NULL REFERENCES product,
  version_id  bigint NOT NULL REFERENCES marking_plan_version,
  PRIMARY KEY (event_id, product_id)
);

-- Faults a booking went on in spite of, as its plan allows; a written reason where the plan wants one.
CREATE TABLE booking_remark (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  event_id  bigint NOT NULL REFERENCES event,
  code      text NOT NULL,
  answer    text NOT NULL CHECK (answer IN ('reason', 'note')),
  number    text,
  message   text NOT NULL,
  reason    text CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  CONSTRAINT reason_where_due CHECK ((answer = 'reason') = (reason IS NOT NULL))
);
CREATE INDEX booking_remark_event ON booking_remark (event_id);

-- An amendment may change a mark's number and its facts too.
ALTER TABLE mark_change DROP CONSTRAINT mark_change_field_check;
ALTER TABLE mark_change
  ADD COLUMN fact text CHECK (length(fact) BETWEEN 1 AND 100),
  ADD CONSTRAINT mark_change_field_check CHECK (field IN ('state', 'number', 'expires_on', 'made_on', 'retest_on', 'supplier_number', 'warranty_start', 'fact')),
  ADD CONSTRAINT fact_is_named CHECK ((field = 'fact') = (fact IS NOT NULL));
-- The scan field: a mark is still found by what it was called before.
CREATE INDEX mark_change_old_number ON mark_change (upper(old_value) text_pattern_ops) WHERE field IN ('number', 'supplier_number') AND old_value IS NOT NULL;

CREATE OR REPLACE FUNCTION apply_mark_change() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
  found_row mark%ROWTYPE;
  present text;
BEGIN
  SELECT * INTO found_row FROM mark WHERE id = NEW.mark_id FOR NO KEY UPDATE;
  present := CASE NEW.field
    WHEN 'state' THEN found_row.state WHEN 'expires_on' THEN found_row.expires_on::text WHEN 'made_on' THEN found_row.made_on::text
    WHEN 'retest_on' THEN found_row.retest_on::text WHEN 'supplier_number' THEN found_row.supplier_number
    WHEN 'warranty_start' THEN found_row.warranty_start::text WHEN 'number' THEN found_row.number
    WHEN 'fact' THEN found_row.facts -> NEW.fact ->> 'value' END;
  IF present IS DISTINCT FROM NEW.old_value THEN
    RAISE EXCEPTION 'mark % has % = %, not %', NEW.mark_id, NEW.field, present, NEW.old_value USING ERRCODE = 'serialization_failure';
  END IF;
  UPDATE mark SET
    state           = CASE NEW.field WHEN 'state' THEN NEW.new_value ELSE state END,
    number          = CASE NEW.field WHEN 'number' THEN NEW.new_value::code_text ELSE number END,
    expires_on      = CASE NEW.field WHEN 'expires_on' THEN NEW.new_value::date ELSE expires_on END,
    made_on         = CASE NEW.field WHEN 'made_on' THEN NEW.new_value::date ELSE made_on END,
    retest_on       = CASE NEW.field WHEN 'retest_on' THEN NEW.new_value::date ELSE retest_on END,
    supplier_number = CASE NEW.field WHEN 'supplier_number' THEN NEW.new_value ELSE supplier_number END,
    warranty_start  = CASE NEW.field WHEN 'warranty_start' THEN NEW.new_value::date ELSE warranty_start END,
    facts           = CASE WHEN NEW.field <> 'fact' THEN facts
                           WHEN NEW.new_value IS NULL THEN facts - NEW.fact
                           ELSE facts || jsonb_build_object(NEW.fact, coalesce(facts -> NEW.fact, '{}') || jsonb_build_object('value', NEW.new_value)) END
  WHERE id = NEW.mark_id;
  RETURN NULL;
END $$;

-- A draft's numbers, so that two people see at once that they give the same one: `PRODUCT kind NUMBER`, folded.
ALTER TABLE draft ADD COLUMN numbers text[] NOT NULL DEFAULT '{}';

-- What was printed: every job with its labels as they were drawn, and which marks they were for, so that a reprint is known.
CREATE TABLE label_job (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  printed_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  printed_by  bigint NOT NULL REFERENCES person,
  target      text NOT NULL CHECK (target IN ('pdf', 'printer')),
  symbol      text NOT NULL CHECK (symbol IN ('datamatrix', 'gs1-128', 'qr')),
  size        text NOT NULL CHECK (length(size) BETWEEN 1 AND 20),
  copies      integer NOT NULL CHECK (copies BETWEEN 1 AND 100),
  labels      jsonb NOT NULL CHECK (jsonb_typeof(labels) = 'array')
);
CREATE TABLE label_print (
  job_id   bigint NOT NULL REFERENCES label_job,
  mark_id  bigint NOT NULL REFERENCES mark,
  PRIMARY KEY (job_id, mark_id)
);
CREATE INDEX label_print_mark ON label_print (mark_id);

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['marking_plan_version', 'event_plan', 'booking_remark', 'label_job', 'label_print'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;

GRANT SELECT, INSERT ON marking_plan_version, event_plan, booking_remark, label_job, label_print TO earmark_app;
GRANT SELECT, INSERT, UPDATE ON marking_plan TO earmark_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON product_unit, announced_number TO earmark_app;
