-- Law 10: no history gives back more than went in.

-- What is in a host before an event (null: now), part by part: what went in by what made it and was
-- fitted, less what was taken out. Of a unit that was taken apart only what went in since; of a lot
-- all that ever went in, beside how much of it was made, for its units share evenly.
CREATE FUNCTION inside_of(asked bigint, before bigint)
RETURNS TABLE (part bigint, went_in numeric, came_out numeric, made numeric)
LANGUAGE sql STABLE SET search_path = public AS $$
  WITH host AS (SELECT id, kind FROM mark WHERE id = asked),
  apart AS (
    SELECT t.id, t.event_id
    FROM transformation_input i
      JOIN transformation t ON t.id = i.transformation_id
      JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
    WHERE i.mark_id = asked
      AND (before IS NULL OR t.event_id < before)
      AND NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
  ),
  since AS (
    SELECT CASE WHEN (SELECT kind FROM host) = 'serial' THEN
      coalesce((SELECT max(event_id) FROM apart), 0) ELSE 0 END AS event
  ),
  making AS (
    SELECT t.id, t.shared, o.quantity, (
      SELECT sum(x.quantity) FROM transformation_output x WHERE x.transformation_id = t.id
    ) AS whole
    FROM transformation_output o
      JOIN transformation t ON t.id = o.transformation_id
      JOIN event e ON e.id = t.event_id AND e.kind NOT IN ('identify', 'teardown')
    WHERE o.mark_id = asked
      AND t.event_id > (SELECT event FROM since)
      AND (before IS NULL OR t.event_id < before)
      AND NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
  ),
  flows AS (
    SELECT i.mark_id AS part, i.quantity * m.quantity / m.whole AS went_in, 0::numeric AS came_out
    FROM making m
      JOIN transformation_input i ON i.transformation_id = m.id
    WHERE i.mark_id <> asked
    UNION ALL
    SELECT f.component_id, f.quantity, 0
    FROM fitting f
    WHERE f.host_id = asked
      AND f.from_event > (SELECT event FROM since)
      AND (before IS NULL OR f.from_event < before)
    UNION ALL
    SELECT r.component_id, 0, r.quantity
    FROM removal r
    WHERE r.host_id = asked
      AND r.event_id > (SELECT event FROM since)
      AND (before IS NULL OR r.event_id < before)
    UNION ALL
    SELECT o.mark_id, 0, o.quantity
    FROM apart a
      JOIN transformation_output o ON o.transformation_id = a.id
    WHERE (SELECT kind FROM host) <> 'serial'
  )
  SELECT f.part, sum(f.went_in), sum(f.came_out), CASE WHEN (SELECT kind FROM host) = 'serial' THEN 1
    ELSE coalesce((SELECT sum(quantity) FROM making WHERE NOT shared), 0) END
  FROM flows f
  GROUP BY f.part
  HAVING sum(f.went_in) > 0
$$;
GRANT EXECUTE ON FUNCTION inside_of(bigint, bigint) TO earmark_app;

-- A share without a finite decimal may differ by less than the ledger keeps.
CREATE FUNCTION gives_back_what_went_in() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
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
  SELECT o.mark_id, o.quantity, i.mark_id AS host INTO too_much
  FROM transformation t
    JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
    JOIN transformation_input i ON i.transformation_id = t.id
    JOIN transformation_output o ON o.transformation_id = t.id
    JOIN LATERAL inside_of(i.mark_id, t.event_id) n ON n.part = o.mark_id
  WHERE t.id IN (SELECT transformation_id FROM new_rows)
    AND (
      o.quantity > n.went_in * i.quantity / greatest(n.made, i.quantity) + 0.000001
        OR o.quantity > n.went_in - n.came_out + 0.000001
    )
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION 'mark % would give back % of mark %, more than is in what is taken apart',
      too_much.host, too_much.quantity, too_much.mark_id
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER gives_back_what_went_in AFTER INSERT ON transformation_input
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION gives_back_what_went_in();
CREATE TRIGGER gives_back_what_went_in AFTER INSERT ON transformation_output
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION gives_back_what_went_in();

-- A part that is taken out is in the host then, and no more of it than is.
CREATE FUNCTION takes_out_what_is_in() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (
    SELECT
    FROM (
      SELECT host_id, component_id, event_id, sum(quantity) AS quantity
      FROM new_rows
      GROUP BY host_id, component_id, event_id
    ) r
      LEFT JOIN LATERAL inside_of(r.host_id, r.event_id) n ON n.part = r.component_id
    WHERE r.quantity > coalesce(n.went_in - n.came_out, 0) + 0.000001
  ) THEN
    RAISE EXCEPTION 'a part is taken out of a unit that does not have it'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER takes_out_what_is_in AFTER INSERT ON removal
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION takes_out_what_is_in();

-- What made a host is not taken back from under what came out of it.
CREATE FUNCTION leaves_what_came_out() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (
    SELECT
    FROM new_rows r
      JOIN transformation_output h ON h.transformation_id = r.transformation_id
      JOIN transformation made ON made.id = r.transformation_id
      JOIN transformation_input i ON i.mark_id = h.mark_id
      JOIN transformation t ON t.id = i.transformation_id AND t.event_id > made.event_id
      JOIN event e ON e.id = t.event_id AND e.kind = 'teardown'
      JOIN transformation_output o ON o.transformation_id = t.id
      JOIN transformation_input p ON p.transformation_id = r.transformation_id
        AND p.mark_id = o.mark_id
      LEFT JOIN LATERAL inside_of(h.mark_id, t.event_id) n ON n.part = o.mark_id
    WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
      AND o.quantity > coalesce(n.went_in - n.came_out, 0) + 0.000001
  ) THEN
    RAISE EXCEPTION 'what was taken apart since would have given back more than went in'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER leaves_what_came_out AFTER INSERT ON transformation_reversed
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION leaves_what_came_out();
