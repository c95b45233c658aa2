-- What is in many hosts is one question and not one for each: bookings of fittings, the law that
-- looks again behind them, and the record of what left with what was in it.

-- What is in each of these hosts before an event (null: now), part by part, as inside_of says it.
-- The two lists go together, place by place.
CREATE FUNCTION insides_of(asked bigint[], before bigint[])
RETURNS TABLE (
  host bigint, before_event bigint, part bigint, went_in numeric, came_out numeric, made numeric
)
LANGUAGE sql STABLE SET search_path = pg_catalog, public, pg_temp AS $$
  WITH wanted AS MATERIALIZED (
    SELECT DISTINCT m.id, m.kind, coalesce(a.before, 9223372036854775807) AS until
    FROM unnest(asked, before) AS a (id, before)
      JOIN mark m ON m.id = a.id
  ),
  apart AS MATERIALIZED (
    SELECT w.id AS host, w.kind, w.until, t.id, t.event_id
    FROM wanted w
      JOIN transformation_input i ON i.mark_id = w.id
      JOIN transformation t ON t.id = i.transformation_id AND t.event_id < w.until
      JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
    WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
  ),
  -- Of a unit that was taken apart only what went in since.
  last_apart AS MATERIALIZED (
    SELECT host, until, max(event_id) AS event
    FROM apart
    WHERE kind = 'serial'
    GROUP BY host, until
  ),
  since AS MATERIALIZED (
    SELECT w.id, w.kind, w.until, coalesce(l.event, 0) AS event
    FROM wanted w
      LEFT JOIN last_apart l ON l.host = w.id AND l.until = w.until
  ),
  making AS MATERIALIZED (
    SELECT s.id AS host, s.until, t.id, t.shared, o.quantity,
      (
        SELECT sum(x.quantity) FROM transformation_output x WHERE x.transformation_id = t.id
      ) AS whole
    FROM since s
      JOIN transformation_output o ON o.mark_id = s.id
      JOIN transformation t
        ON t.id = o.transformation_id AND t.event_id > s.event AND t.event_id < s.until
      JOIN event e ON e.id = t.event_id AND e.kind NOT IN ('identify', 'teardown')
    WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
  ),
  flows AS (
    SELECT m.host, m.until, i.mark_id AS part, i.quantity * m.quantity / m.whole AS went_in,
      0::numeric AS came_out
    FROM making m
      JOIN transformation_input i ON i.transformation_id = m.id
    WHERE i.mark_id <> m.host
    UNION ALL
    SELECT s.id, s.until, f.component_id, f.quantity, 0
    FROM since s
      JOIN fitting f ON f.host_id = s.id AND f.from_event > s.event AND f.from_event < s.until
    UNION ALL
    SELECT s.id, s.until, r.component_id, 0, r.quantity
    FROM since s
      JOIN removal r ON r.host_id = s.id AND r.event_id > s.event AND r.event_id < s.until
    UNION ALL
    SELECT a.host, a.until, o.mark_id, 0, o.quantity
    FROM apart a
      JOIN transformation_output o ON o.transformation_id = a.id
    WHERE a.kind <> 'serial'
  ),
  -- Of a lot beside how much of it was made, for its units share evenly.
  made AS (
    SELECT s.id AS host, s.until,
      CASE WHEN s.kind = 'serial' THEN 1
        ELSE coalesce(
          (
            SELECT sum(m.quantity)
            FROM making m
            WHERE m.host = s.id AND m.until = s.until AND NOT m.shared
          ),
            0
        ) END AS quantity
    FROM since s
  )
  SELECT f.host, nullif(f.until, 9223372036854775807), f.part, sum(f.went_in), sum(f.came_out),
    min(d.quantity)
  FROM flows f
    JOIN made d ON d.host = f.host AND d.until = f.until
  GROUP BY f.host, f.until, f.part
  HAVING sum(f.went_in) > 0
$$;
GRANT EXECUTE ON FUNCTION insides_of(bigint[], bigint[]) TO earmark_app;

-- Kept for an application of before that still runs beside; one host, asked the same way.
CREATE OR REPLACE FUNCTION inside_of(asked bigint, before bigint)
RETURNS TABLE (part bigint, went_in numeric, came_out numeric, made numeric)
LANGUAGE sql STABLE SET search_path = pg_catalog, public, pg_temp AS $$
  SELECT n.part, n.went_in, n.came_out, n.made
  FROM insides_of(ARRAY[asked], ARRAY[before]) n
$$;

CREATE OR REPLACE FUNCTION takes_out_what_is_in() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF EXISTS (
    WITH asked AS MATERIALIZED (
      SELECT host_id, component_id, event_id, sum(quantity) AS quantity
      FROM new_rows
      GROUP BY host_id, component_id, event_id
    ),
    inside AS MATERIALIZED (
      SELECT n.host, n.before_event, n.part, n.went_in - n.came_out AS amount
      FROM (
        SELECT array_agg(host_id) AS hosts, array_agg(event_id) AS events
        FROM (SELECT DISTINCT host_id, event_id FROM asked) h
      ) w
        CROSS JOIN LATERAL insides_of(w.hosts, w.events) n
    )
    SELECT
    FROM asked a
      LEFT JOIN inside i
        ON i.host = a.host_id AND i.before_event = a.event_id AND i.part = a.component_id
    WHERE a.quantity > coalesce(i.amount, 0) + 0.000001
  ) THEN
    RAISE EXCEPTION 'a part is taken out of a unit that does not have it'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;

CREATE OR REPLACE FUNCTION gives_back_what_went_in() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  too_much record;
BEGIN
  -- Asked of every booking that makes something: by the ids of its own rows, never over the ledger.
  IF NOT EXISTS (
    SELECT
    FROM (SELECT DISTINCT transformation_id FROM new_rows) n
      JOIN transformation t ON t.id = n.transformation_id
      JOIN event e ON e.id = t.event_id
    WHERE e.kind = 'teardown'
  ) THEN
    RETURN NULL;
  END IF;
  WITH apart AS MATERIALIZED (
    SELECT t.event_id, i.mark_id AS host, i.quantity AS taken, o.mark_id AS part, o.quantity
    FROM transformation t
      JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
      JOIN transformation_input i ON i.transformation_id = t.id
      JOIN transformation_output o ON o.transformation_id = t.id
    WHERE t.id IN (SELECT transformation_id FROM new_rows)
  ),
  inside AS MATERIALIZED (
    SELECT n.*
    FROM (
      SELECT array_agg(host) AS hosts, array_agg(event_id) AS events
      FROM (SELECT DISTINCT host, event_id FROM apart) h
    ) w
      CROSS JOIN LATERAL insides_of(w.hosts, w.events) n
  )
  SELECT a.part AS mark_id, a.quantity, a.host INTO too_much
  FROM apart a
    JOIN inside n ON n.host = a.host AND n.before_event = a.event_id AND n.part = a.part
  WHERE a.quantity > n.went_in * a.taken / greatest(n.made, a.taken) + 0.000001
    OR a.quantity > n.went_in - n.came_out + 0.000001
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION 'mark % would give back % of mark %, more than is in what is taken apart',
      too_much.host, too_much.quantity, too_much.mark_id
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;

CREATE OR REPLACE FUNCTION leaves_what_came_out() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF EXISTS (
    WITH after AS MATERIALIZED (
      SELECT h.mark_id AS host, t.event_id, o.mark_id AS part, o.quantity
      FROM new_rows r
        JOIN transformation_output h ON h.transformation_id = r.transformation_id
        JOIN transformation made ON made.id = r.transformation_id
        JOIN transformation_input i ON i.mark_id = h.mark_id
        JOIN transformation t ON t.id = i.transformation_id AND t.event_id > made.event_id
        JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
        JOIN transformation_output o ON o.transformation_id = t.id
        JOIN transformation_input p
          ON p.transformation_id = r.transformation_id AND p.mark_id = o.mark_id
      WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
    ),
    inside AS MATERIALIZED (
      SELECT n.*
      FROM (
        SELECT array_agg(host) AS hosts, array_agg(event_id) AS events
        FROM (SELECT DISTINCT host, event_id FROM after) h
      ) w
        CROSS JOIN LATERAL insides_of(w.hosts, w.events) n
    )
    SELECT
    FROM after a
      LEFT JOIN inside n
        ON n.host = a.host AND n.before_event = a.event_id AND n.part = a.part
    WHERE a.quantity > coalesce(n.went_in - n.came_out, 0) + 0.000001
  ) THEN
    RAISE EXCEPTION 'what was taken apart since would have given back more than went in'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;
