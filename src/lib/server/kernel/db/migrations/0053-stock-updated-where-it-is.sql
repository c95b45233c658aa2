-- Where a mark has lain at a place before, its stock is updated like any row; only what comes to a
-- place for the first time is inserted. An insertion that ends as an update costs more than twice
-- the update.
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
    SELECT n.mark_id, n.place_id, sum(n.quantity) AS quantity,
      min(e.happened_at) AS first, max(e.happened_at) AS last
    FROM new_movements n
      JOIN event e ON e.id = n.event_id
    GROUP BY n.mark_id, n.place_id
    ORDER BY n.mark_id, n.place_id
  ),
  took AS (
    UPDATE stock s
    SET quantity = s.quantity + n.quantity, latest = greatest(s.latest, n.last)
    FROM net n
    WHERE n.quantity < 0 AND s.mark_id = n.mark_id AND s.place_id = n.place_id
    RETURNING 1
  ),
  -- Asked before anything comes: a serial leaves one place before it lies at another.
  gone AS (SELECT count(*) AS rows FROM took),
  coming AS MATERIALIZED (
    SELECT n.*, EXISTS (
      SELECT FROM stock t WHERE t.mark_id = n.mark_id AND t.place_id = n.place_id
    ) AS was_there
    FROM net n
    WHERE n.quantity > 0
  ),
  added AS (
    UPDATE stock s
    SET quantity = s.quantity + n.quantity, latest = greatest(s.latest, n.last)
    FROM coming n
    WHERE n.was_there AND (SELECT g.rows FROM gone g) >= 0
      AND s.mark_id = n.mark_id AND s.place_id = n.place_id
  ),
  came AS (
    -- Another booking may bring it there at the same time: then it is added to what that brought.
    INSERT INTO stock AS s (
      mark_id, place_id, mark_kind, product_id, expires_on, quantity, latest
    )
    SELECT n.mark_id, n.place_id, m.kind, m.product_id, m.expires_on, n.quantity, n.last
    FROM coming n
      JOIN mark m ON m.id = n.mark_id
    WHERE NOT n.was_there AND (SELECT g.rows FROM gone g) >= 0
    ORDER BY 1, 2
    ON CONFLICT (mark_id, place_id) DO UPDATE
    SET quantity = s.quantity + excluded.quantity, latest = greatest(s.latest, excluded.latest)
  ),
  fewer AS (
    SELECT mark_id, min(first) AS at
    FROM net
    GROUP BY mark_id
    HAVING sum(quantity) < 0
  )
  SELECT (SELECT count(*) FROM net WHERE quantity < 0),
    (SELECT g.rows FROM gone g),
    array_agg(f.mark_id), array_agg(f.at)
  INTO wanted, taken, marks, takings
  FROM fewer f;
  IF taken < wanted THEN
    RAISE EXCEPTION 'a movement takes from a place where the mark has never been'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'never_negative', TABLE = 'stock';
  END IF;
  IF marks IS NULL THEN RETURN NULL; END IF;
  SELECT array_agg(t.mark_id), array_agg(t.at) INTO marks, takings
  FROM unnest(marks, takings) AS t (mark_id, at)
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
