-- What a statement's movements come to by mark and place is added up once and not three times.
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
    INSERT INTO stock AS s (mark_id, place_id, mark_kind, quantity, latest)
    SELECT n.mark_id, n.place_id, m.kind, n.quantity, n.at
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
