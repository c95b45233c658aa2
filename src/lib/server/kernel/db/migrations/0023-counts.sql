-- Counting what lies there, while bookings go on.

CREATE TABLE stock_count (
  id              bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  document        code_text NOT NULL,
  -- Whoever counts is not shown what should be there.
  blind           boolean NOT NULL DEFAULT false,
  opened_at       timestamptz NOT NULL DEFAULT clock_timestamp(),
  opened_by       bigint NOT NULL REFERENCES person,
  approved_event  bigint UNIQUE REFERENCES event,
  -- Where nothing was off there is no event, and it is approved all the same.
  approved_at     timestamptz,
  approved_by     bigint REFERENCES person,
  reason          text CHECK (length(btrim(reason)) BETWEEN 1 AND 2000),
  cancelled_at    timestamptz,
  cancelled_by    bigint REFERENCES person,
  CONSTRAINT approved_by_somebody CHECK (
    (approved_at IS NULL) = (approved_by IS NULL) AND (approved_at IS NULL) = (reason IS NULL)
      AND (approved_event IS NULL OR approved_at IS NOT NULL)
  ),
  CONSTRAINT cancelled_by_somebody CHECK ((cancelled_at IS NULL) = (cancelled_by IS NULL)),
  CONSTRAINT ended_once CHECK (approved_at IS NULL OR cancelled_at IS NULL)
);
CREATE UNIQUE INDEX stock_count_document ON stock_count (upper(document));

-- Where it counts. A place is counted by one at a time.
CREATE TABLE count_place (
  count_id  bigint NOT NULL REFERENCES stock_count,
  place_id  bigint NOT NULL REFERENCES place,
  open      boolean NOT NULL DEFAULT true,
  -- All that lies there was counted; what was not named is not there.
  done_at   timestamptz,
  done_by   bigint REFERENCES person,
  PRIMARY KEY (count_id, place_id),
  CONSTRAINT done_by_somebody CHECK ((done_at IS NULL) = (done_by IS NULL))
);
CREATE UNIQUE INDEX one_count_at_a_place ON count_place (place_id) WHERE open;
CREATE INDEX count_place_place ON count_place (place_id);

-- What it counts: these products, or these lots; everything where none is named.
CREATE TABLE count_product (
  count_id    bigint NOT NULL REFERENCES stock_count,
  product_id  bigint NOT NULL REFERENCES product,
  lot_id      bigint REFERENCES mark
);
CREATE UNIQUE INDEX count_product_once ON count_product (count_id, product_id, coalesce(lot_id, 0));

-- What was found, each time somebody looked; the latest of a number at a place stands.
CREATE TABLE count_entry (
  id          bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY,
  count_id    bigint NOT NULL,
  place_id    bigint NOT NULL,
  product_id  bigint NOT NULL REFERENCES product,
  kind        text NOT NULL CHECK (kind IN ('lot', 'serial', 'bulk')),
  number      code_text,
  number_key  text GENERATED ALWAYS AS (upper((number::text) COLLATE "C")) STORED,
  -- The lot a serial is within that was never known.
  lot         code_text,
  -- Null where an entry is taken back: it was not counted after all.
  counted     quantity CHECK (counted >= 0),
  -- What the ledger said lay there at that moment; what moves later moves both.
  seen        quantity NOT NULL CHECK (seen >= 0),
  -- Dates and facts of what was never known.
  born        jsonb NOT NULL DEFAULT '{}',
  counted_by  bigint NOT NULL REFERENCES person,
  counted_at  timestamptz NOT NULL DEFAULT clock_timestamp(),
  FOREIGN KEY (count_id, place_id) REFERENCES count_place,
  CONSTRAINT bulk_has_no_number CHECK ((kind = 'bulk') = (number IS NULL)),
  CONSTRAINT a_serial_is_one_or_none CHECK (kind <> 'serial' OR counted IN (0, 1))
);
CREATE INDEX count_entry_standing
  ON count_entry (count_id, place_id, product_id, kind, number_key, id DESC);

CREATE VIEW count_standing AS
  SELECT DISTINCT ON (count_id, place_id, product_id, kind, number_key) *
  FROM count_entry
  ORDER BY count_id, place_id, product_id, kind, number_key, id DESC;

-- An ended count stays as it is, and nobody approves what they counted themselves.
CREATE FUNCTION counting_is_open() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  ended bigint;
BEGIN
  PERFORM 1 FROM stock_count
    WHERE id IN (SELECT count_id FROM new_rows)
    FOR KEY SHARE;
  SELECT k.id INTO ended
  FROM stock_count k
  WHERE k.id IN (SELECT count_id FROM new_rows)
    AND (k.approved_at IS NOT NULL OR k.cancelled_at IS NOT NULL)
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION 'count % has ended', ended
      USING ERRCODE = 'check_violation', CONSTRAINT = 'counting_is_open';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER counting_is_open AFTER INSERT ON count_entry
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION counting_is_open();

CREATE FUNCTION approved_by_another() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF OLD.approved_at IS NOT NULL OR OLD.cancelled_at IS NOT NULL THEN
    RAISE EXCEPTION 'count % has ended', OLD.id
      USING ERRCODE = 'check_violation', CONSTRAINT = 'counting_is_open';
  END IF;
  IF NEW.approved_by IS NOT NULL AND EXISTS (
    SELECT FROM count_entry e
    WHERE e.count_id = NEW.id AND e.counted_by = NEW.approved_by AND e.counted IS NOT NULL
    UNION ALL
    SELECT FROM count_place p WHERE p.count_id = NEW.id AND p.done_by = NEW.approved_by
  ) THEN
    RAISE EXCEPTION 'count % is approved by who counted', OLD.id
      USING ERRCODE = 'check_violation', CONSTRAINT = 'approved_by_another';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER approved_by_another BEFORE UPDATE ON stock_count
  FOR EACH ROW EXECUTE FUNCTION approved_by_another();

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON count_entry
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON count_product
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

ALTER TABLE event DROP CONSTRAINT reason_where_due;
ALTER TABLE event ADD CONSTRAINT reason_where_due CHECK (reason IS NOT NULL OR kind NOT IN (
  'hold', 'release', 'reject', 'gain', 'loss', 'scrap', 'count', 'amendment', 'reversal'
));

GRANT SELECT, INSERT ON count_entry, count_product TO earmark_app;
GRANT SELECT, INSERT, UPDATE ON stock_count, count_place TO earmark_app;
GRANT SELECT ON count_standing TO earmark_app;
