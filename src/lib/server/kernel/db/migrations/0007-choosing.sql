-- Which lot goes to which customer: wishes, promises, specs, tests and the certificates made of them.

-- What a customer wishes of a product; without a product, of all.
CREATE TABLE customer_wish (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  partner_id   bigint NOT NULL REFERENCES partner,
  product_id   bigint REFERENCES product,
  least_days   integer CHECK (least_days > 0),
  least_share  numeric(6, 3) CHECK (least_share > 0 AND least_share <= 100),
  one_lot      boolean NOT NULL DEFAULT false,
  one_date     boolean NOT NULL DEFAULT false,
  tested       boolean NOT NULL DEFAULT false
);
CREATE UNIQUE INDEX customer_wish_once ON customer_wish (partner_id, coalesce(product_id, 0));

-- A promise of a mark, or of so much of it, to a line of a sales order. No ledger: a promise may be taken back.
CREATE TABLE reservation (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  order_id     bigint NOT NULL REFERENCES trade_order,
  line         integer NOT NULL CHECK (line > 0),
  mark_id      bigint NOT NULL REFERENCES mark,
  quantity     quantity NOT NULL CHECK (quantity > 0),
  promised_by  bigint NOT NULL REFERENCES person,
  promised_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  -- After this day it no longer counts.
  until        date,
  reason       text CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  UNIQUE (order_id, line, mark_id)
);
CREATE INDEX reservation_mark ON reservation (mark_id);

-- Limits of a product, and stricter ones of a customer. Every change is a new version.
CREATE TABLE spec (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  product_id  bigint NOT NULL REFERENCES product,
  partner_id  bigint REFERENCES partner,
  version     integer NOT NULL CHECK (version > 0),
  body        jsonb NOT NULL CHECK (jsonb_typeof(body) = 'object'),
  made_at     timestamptz NOT NULL DEFAULT clock_timestamp(),
  made_by     bigint NOT NULL REFERENCES person
);
CREATE UNIQUE INDEX spec_version ON spec (product_id, coalesce(partner_id, 0), version);

-- A test of a lot or serial: what was measured, with what, when and by whom. A result is never changed; a test is done again.
CREATE TABLE quality_test (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  mark_id     bigint NOT NULL REFERENCES mark,
  spec_id     bigint REFERENCES spec,
  taken_at    timestamptz NOT NULL,
  instrument  text NOT NULL DEFAULT '' CHECK (length(instrument) <= 200),
  sample      text NOT NULL DEFAULT '' CHECK (length(sample) <= 200),
  note        text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
  results     jsonb NOT NULL CHECK (jsonb_typeof(results) = 'array'),
  tested_by   bigint NOT NULL REFERENCES person,
  -- The caller's idempotency key: a test sent twice is kept once.
  key         text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  booked_at   timestamptz NOT NULL DEFAULT clock_timestamp(),
  UNIQUE (tested_by, key),
  CONSTRAINT test_not_in_the_future CHECK (taken_at <= booked_at + interval '5 minutes')
);
CREATE INDEX quality_test_mark ON quality_test (mark_id, id);
CREATE TABLE test_signature (
  test_id    bigint PRIMARY KEY REFERENCES quality_test,
  signed_by  bigint NOT NULL REFERENCES person,
  signed_at  timestamptz NOT NULL DEFAULT clock_timestamp()
);
-- Signed off by a second person: never by who tested.
CREATE FUNCTION signed_by_another() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT FROM quality_test t WHERE t.id = NEW.test_id AND t.tested_by = NEW.signed_by) THEN
    RAISE EXCEPTION 'test % is signed by who made it', NEW.test_id USING ERRCODE = 'check_violation', CONSTRAINT = 'signed_by_another';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER signed_by_another BEFORE INSERT ON test_signature FOR EACH ROW EXECUTE FUNCTION signed_by_another();

-- A certificate as it was issued: its content is kept, so that it reads the same any time later.
CREATE SEQUENCE certificate_number_seq;
CREATE TABLE certificate (
  number      bigint PRIMARY KEY DEFAULT nextval('certificate_number_seq'),
  event_id    bigint REFERENCES event,
  partner_id  bigint REFERENCES partner,
  content     jsonb NOT NULL CHECK (jsonb_typeof(content) = 'object'),
  issued_at   timestamptz NOT NULL DEFAULT clock_timestamp(),
  issued_by   bigint NOT NULL REFERENCES person
);
CREATE TABLE certificate_mark (
  number   bigint NOT NULL REFERENCES certificate,
  mark_id  bigint NOT NULL REFERENCES mark,
  PRIMARY KEY (number, mark_id)
);
CREATE INDEX certificate_of_mark ON certificate_mark (mark_id);

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['spec', 'quality_test', 'test_signature', 'certificate', 'certificate_mark'] LOOP
    EXECUTE format('CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name);
  END LOOP;
END $$;

GRANT SELECT, INSERT ON spec, quality_test, test_signature, certificate, certificate_mark TO earmark_app;
GRANT USAGE ON SEQUENCE certificate_number_seq TO earmark_app;
GRANT SELECT, INSERT, UPDATE, DELETE ON customer_wish, reservation TO earmark_app;
