-- Numbering schemes, and the blocks of numbers allotted from them.
CREATE TABLE numbering_scheme (
  id        bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  code      code_text NOT NULL,
  name      text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
  segments  jsonb NOT NULL CHECK (jsonb_typeof(segments) = 'array'),
  reset     text NOT NULL CHECK (reset IN ('never', 'year', 'month', 'week', 'day'))
);
CREATE UNIQUE INDEX numbering_scheme_code ON numbering_scheme (upper(code));

-- The last count given in each period; it only ever goes up.
CREATE TABLE numbering_counter (
  scheme_id  bigint NOT NULL REFERENCES numbering_scheme,
  period     text NOT NULL,
  last       bigint NOT NULL CHECK (last > 0),
  PRIMARY KEY (scheme_id, period)
);

-- Who was given which numbers; a block asked for twice under one key is given once.
CREATE TABLE number_block (
  id           bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  scheme_id    bigint NOT NULL REFERENCES numbering_scheme,
  product_id   bigint NOT NULL REFERENCES product,
  kind         text NOT NULL CHECK (kind IN ('lot', 'serial')),
  numbers      text[] NOT NULL CHECK (cardinality(numbers) > 0),
  person_id    bigint NOT NULL REFERENCES person,
  key          text NOT NULL CHECK (length(key) BETWEEN 1 AND 200),
  allotted_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  UNIQUE (person_id, key)
);

ALTER TABLE product
  ADD COLUMN lot_scheme_id bigint REFERENCES numbering_scheme,
  ADD COLUMN serial_scheme_id bigint REFERENCES numbering_scheme;

CREATE FUNCTION counter_goes_up() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.last <= OLD.last OR NEW.period <> OLD.period OR NEW.scheme_id <> OLD.scheme_id THEN
    RAISE EXCEPTION 'a counter only goes up' USING ERRCODE = 'check_violation', CONSTRAINT = 'counter_goes_up';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER counter_goes_up BEFORE UPDATE ON numbering_counter FOR EACH ROW EXECUTE FUNCTION counter_goes_up();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON number_block FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

GRANT SELECT, INSERT, UPDATE ON numbering_scheme, numbering_counter TO earmark_app;
GRANT SELECT, INSERT ON number_block TO earmark_app;
