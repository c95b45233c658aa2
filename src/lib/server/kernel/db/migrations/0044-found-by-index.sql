-- What screens ask of much stock is found by an index and not by reading all of it.

-- Stock says its product: what lies of one, and of which products anything lies, is one look each.
-- And its own date: of what expired only what is still here is looked at.
ALTER TABLE stock ADD COLUMN product_id bigint, ADD COLUMN expires_on date;
UPDATE stock s
SET product_id = m.product_id, expires_on = m.expires_on
FROM mark m
WHERE m.id = s.mark_id;
ALTER TABLE stock ALTER COLUMN product_id SET NOT NULL;
ALTER TABLE stock
  DROP CONSTRAINT stock_mark_id_mark_kind_fkey,
  ADD CONSTRAINT stock_mark_fkey FOREIGN KEY (mark_id, mark_kind, product_id)
    REFERENCES mark (id, kind, product_id);
CREATE INDEX stock_product ON stock (product_id, mark_id) INCLUDE (place_id, quantity)
WHERE quantity > 0;
CREATE INDEX stock_expiry ON stock (expires_on, mark_id)
WHERE quantity > 0 AND expires_on IS NOT NULL;
-- What it was for, the key and the index by product do as well.
DROP INDEX stock_on_hand;

CREATE OR REPLACE FUNCTION apply_movements() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  wanted bigint;
  taken bigint;
  marks bigint[];
  takings timestamptz[];
  broken bigint;
BEGIN
  WITH net AS MATERIALIZED (
    SELECT n.mark_id, n.place_id, sum(n.quantity) AS quantity, max(e.happened_at) AS at
    FROM new_movements n
      JOIN event e ON e.id = n.event_id
    GROUP BY n.mark_id, n.place_id
    HAVING sum(n.quantity) <> 0
  ),
  done AS (
    UPDATE stock s
    SET quantity = s.quantity + n.quantity, latest = greatest(s.latest, n.at)
    FROM net n
    WHERE n.quantity < 0 AND s.mark_id = n.mark_id AND s.place_id = n.place_id
    RETURNING 1
  ),
  came AS (
    INSERT INTO stock AS s (
      mark_id, place_id, mark_kind, product_id, expires_on, quantity, latest
    )
    SELECT n.mark_id, n.place_id, m.kind, m.product_id, m.expires_on, n.quantity, n.at
    FROM net n
      JOIN mark m ON m.id = n.mark_id
    WHERE n.quantity > 0
    ORDER BY 1, 2
    ON CONFLICT (mark_id, place_id) DO UPDATE
    SET quantity = s.quantity + excluded.quantity, latest = greatest(s.latest, excluded.latest)
  )
  SELECT count(*) FILTER (WHERE quantity < 0), (SELECT count(*) FROM done) INTO wanted, taken
  FROM net;
  IF taken < wanted THEN
    RAISE EXCEPTION 'a movement takes from a place where the mark has never been'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'never_negative', TABLE = 'stock';
  END IF;
  IF wanted = 0 THEN RETURN NULL; END IF;
  SELECT array_agg(t.mark_id), array_agg(t.at) INTO marks, takings
  FROM (
    SELECT n.mark_id, min(e.happened_at) AS at
    FROM new_movements n
      JOIN event e ON e.id = n.event_id
    GROUP BY n.mark_id
    HAVING sum(n.quantity) < 0
  ) t
  WHERE EXISTS (SELECT FROM stock s WHERE s.mark_id = t.mark_id AND s.latest > t.at);
  IF marks IS NOT NULL AND NOT EXISTS (
    SELECT
    FROM booking_remark r
      JOIN event e ON e.id = r.event_id
    WHERE r.code = 'time.order' AND e.booked_xid = pg_current_xact_id()
  ) THEN
    broken := below_zero_by_date(marks, takings);
    IF broken IS NOT NULL THEN
      RAISE EXCEPTION 'by its dates mark % would be below zero', broken
        USING ERRCODE = 'check_violation', CONSTRAINT = 'order_of_time';
    END IF;
  END IF;
  RETURN NULL;
END $$;

CREATE OR REPLACE FUNCTION apply_mark_change() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  found_row mark%ROWTYPE;
  present text;
BEGIN
  SELECT * INTO found_row FROM mark WHERE id = NEW.mark_id FOR NO KEY UPDATE;
  present := CASE NEW.field
    WHEN 'state' THEN found_row.state
    WHEN 'expires_on' THEN found_row.expires_on::text
    WHEN 'made_on' THEN found_row.made_on::text
    WHEN 'retest_on' THEN found_row.retest_on::text
    WHEN 'supplier_number' THEN found_row.supplier_number
    WHEN 'warranty_start' THEN found_row.warranty_start::text
    WHEN 'number' THEN found_row.number
    WHEN 'fact' THEN found_row.facts -> NEW.fact ->> 'value' END;
  IF present IS DISTINCT FROM NEW.old_value THEN
    RAISE EXCEPTION 'mark % has % = %, not %', NEW.mark_id, NEW.field, present, NEW.old_value
      USING ERRCODE = 'serialization_failure';
  END IF;
  UPDATE mark SET
    state = CASE NEW.field WHEN 'state' THEN NEW.new_value ELSE state END,
    number = CASE NEW.field WHEN 'number' THEN NEW.new_value::code_text ELSE number END,
    expires_on = CASE NEW.field WHEN 'expires_on' THEN NEW.new_value::date ELSE expires_on END,
    made_on = CASE NEW.field WHEN 'made_on' THEN NEW.new_value::date ELSE made_on END,
    retest_on = CASE NEW.field WHEN 'retest_on' THEN NEW.new_value::date ELSE retest_on END,
    supplier_number =
      CASE NEW.field WHEN 'supplier_number' THEN NEW.new_value ELSE supplier_number END,
    warranty_start =
      CASE NEW.field WHEN 'warranty_start' THEN NEW.new_value::date ELSE warranty_start END,
    facts = CASE WHEN NEW.field <> 'fact' THEN facts
      WHEN NEW.new_value IS NULL THEN facts - NEW.fact
      ELSE facts || jsonb_build_object(
        NEW.fact,
        coalesce(facts -> NEW.fact, '{}') || jsonb_build_object('value', NEW.new_value)
      ) END
  WHERE id = NEW.mark_id;
  IF NEW.field = 'expires_on' THEN
    UPDATE stock SET expires_on = NEW.new_value::date WHERE mark_id = NEW.mark_id;
  END IF;
  RETURN NULL;
END $$;

-- The few that are held or rejected among all there ever were.
CREATE INDEX mark_not_usable ON mark (state, id) WHERE state <> 'usable';

-- Numbers are looked for by any part of them: people know how a number ends.
-- Debian's package has it; it is kept apart, as nobody calls what else is in it.
CREATE SCHEMA parts_of_text;
CREATE EXTENSION pg_trgm SCHEMA parts_of_text;
CREATE INDEX mark_number_part ON mark USING gin (number parts_of_text.gin_trgm_ops);
CREATE INDEX mark_supplier_number_part ON mark
USING gin (supplier_number parts_of_text.gin_trgm_ops)
WHERE supplier_number IS NOT NULL;
