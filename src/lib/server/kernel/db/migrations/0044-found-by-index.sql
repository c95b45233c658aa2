-- What screens ask of much stock is found by an index and not by reading all of it.

-- Stock says its product: what lies of one, and of which products anything lies, is one look each.
ALTER TABLE stock ADD COLUMN product_id bigint;
UPDATE stock s
SET product_id = m.product_id
FROM mark m
WHERE m.id = s.mark_id;
ALTER TABLE stock ALTER COLUMN product_id SET NOT NULL;
ALTER TABLE stock
  DROP CONSTRAINT stock_mark_id_mark_kind_fkey,
  ADD CONSTRAINT stock_mark_fkey FOREIGN KEY (mark_id, mark_kind, product_id)
    REFERENCES mark (id, kind, product_id);
CREATE INDEX stock_product ON stock (product_id, mark_id) INCLUDE (place_id, quantity)
WHERE quantity > 0;
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
    INSERT INTO stock AS s (mark_id, place_id, mark_kind, product_id, quantity, latest)
    SELECT n.mark_id, n.place_id, m.kind, m.product_id, n.quantity, n.at
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

-- The few that are held or rejected among all there ever were, and what has a date.
CREATE INDEX mark_not_usable ON mark (state, id) WHERE state <> 'usable';
CREATE INDEX mark_expiry ON mark (expires_on) WHERE expires_on IS NOT NULL;

-- Numbers are looked for by any part of them: people know how a number ends.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
CREATE INDEX mark_number_part ON mark USING gin (number gin_trgm_ops);
CREATE INDEX mark_supplier_number_part ON mark USING gin (supplier_number gin_trgm_ops)
WHERE supplier_number IS NOT NULL;
