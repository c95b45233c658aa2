-- Law 11, order of time: by its own dates, too, no mark is below zero. A booking that goes on in
-- spite of it says so in a remark, for ever.

-- The latest instant anything moved of a mark at a place: what is booked after it needs no look
-- into the past.
ALTER TABLE stock ADD COLUMN latest timestamptz NOT NULL DEFAULT '-infinity';
UPDATE stock s
SET latest = m.latest
FROM (
  SELECT v.mark_id, v.place_id, max(e.happened_at) AS latest
  FROM movement v
    JOIN event e ON e.id = v.event_id
  GROUP BY 1, 2
) m
WHERE m.mark_id = s.mark_id AND m.place_id = s.place_id;

-- The first of the marks taken at some instants that would be below zero by their dates; null where
-- none would. What happened at the same instant counts together.
CREATE FUNCTION below_zero_by_date(marks bigint[], takings timestamptz[]) RETURNS bigint
LANGUAGE sql STABLE SET search_path = pg_catalog, public, pg_temp AS $$
  SELECT b.mark_id
  FROM unnest(marks, takings) AS t (mark_id, at)
    CROSS JOIN LATERAL (
      SELECT v.mark_id, e.happened_at,
        sum(v.quantity) OVER (ORDER BY e.happened_at) AS balance
      FROM movement v
        JOIN event e ON e.id = v.event_id
      WHERE v.mark_id = t.mark_id
    ) b
  WHERE b.happened_at >= t.at AND b.balance < 0
  LIMIT 1
$$;

CREATE OR REPLACE FUNCTION apply_movements() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  wanted bigint;
  taken bigint;
  marks bigint[];
  takings timestamptz[];
  broken bigint;
BEGIN
  IF EXISTS (SELECT FROM new_movements WHERE quantity < 0) THEN
    WITH net AS MATERIALIZED (
      SELECT n.mark_id, n.place_id, sum(n.quantity) AS quantity, max(e.happened_at) AS at
      FROM new_movements n
        JOIN event e ON e.id = n.event_id
      GROUP BY n.mark_id, n.place_id
      HAVING sum(n.quantity) < 0
    ),
    done AS (
      UPDATE stock s
      SET quantity = s.quantity + n.quantity, latest = greatest(s.latest, n.at)
      FROM net n
      WHERE s.mark_id = n.mark_id AND s.place_id = n.place_id
      RETURNING 1
    )
    SELECT (SELECT count(*) FROM net), (SELECT count(*) FROM done) INTO wanted, taken;
    IF taken < wanted THEN
      RAISE EXCEPTION 'a movement takes from a place where the mark has never been'
        USING ERRCODE = 'check_violation', CONSTRAINT = 'never_negative', TABLE = 'stock';
    END IF;
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
  END IF;
  INSERT INTO stock AS s (mark_id, place_id, mark_kind, quantity, latest)
  SELECT n.mark_id, n.place_id, m.kind, n.quantity, n.at
  FROM (
    SELECT n.mark_id, n.place_id, sum(n.quantity) AS quantity, max(e.happened_at) AS at
    FROM new_movements n
      JOIN event e ON e.id = n.event_id
    GROUP BY n.mark_id, n.place_id
    HAVING sum(n.quantity) > 0
  ) n
    JOIN mark m ON m.id = n.mark_id
  ORDER BY 1, 2
  ON CONFLICT (mark_id, place_id) DO UPDATE
  SET quantity = s.quantity + excluded.quantity, latest = greatest(s.latest, excluded.latest);
  RETURN NULL;
END $$;
