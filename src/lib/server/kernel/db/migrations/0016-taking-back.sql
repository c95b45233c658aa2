-- Anything can be taken back, once, and only as it was.

-- Whether what an event did to a mark was taken back by another.
CREATE FUNCTION is_taken_back(event bigint, mark bigint) RETURNS boolean
LANGUAGE sql STABLE AS $$
  SELECT EXISTS (
    SELECT
    FROM public.event b
      JOIN public.movement v ON v.event_id = b.id
    WHERE b.reverses_id = $1 AND v.mark_id = $2
  )
$$;
GRANT EXECUTE ON FUNCTION is_taken_back(bigint, bigint) TO earmark_app;

-- Whether nothing that ever brought a mark in still stands: its number may be given anew.
CREATE FUNCTION never_came(asked bigint) RETURNS boolean
LANGUAGE sql STABLE AS $$
  SELECT NOT EXISTS (
    SELECT
    FROM public.movement v
      JOIN public.event e ON e.id = v.event_id AND e.kind <> 'reversal'
    WHERE v.mark_id = $1 AND NOT public.is_taken_back(v.event_id, $1)
    GROUP BY v.event_id
    HAVING sum(v.quantity) > 0
  )
$$;
GRANT EXECUTE ON FUNCTION never_came(bigint) TO earmark_app;

-- A carton leaves once; it comes back with the shipment that is taken back, and may leave again.
ALTER TABLE unit_shipped DROP CONSTRAINT unit_shipped_pkey;
ALTER TABLE unit_shipped ADD PRIMARY KEY (unit_id, event_id);
CREATE TABLE unit_back (
  unit_id      bigint NOT NULL,
  shipment_id  bigint NOT NULL,
  event_id     bigint NOT NULL REFERENCES event,
  PRIMARY KEY (unit_id, shipment_id),
  FOREIGN KEY (unit_id, shipment_id) REFERENCES unit_shipped (unit_id, event_id)
);
CREATE INDEX unit_back_event ON unit_back (event_id);
CREATE VIEW unit_out AS
  SELECT s.unit_id, s.event_id
  FROM unit_shipped s
  WHERE NOT EXISTS (
    SELECT FROM unit_back b WHERE b.unit_id = s.unit_id AND b.shipment_id = s.event_id
  );
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON unit_back
  FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER comes_with_its_event AFTER INSERT ON unit_back
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION comes_with_its_event();
GRANT SELECT, INSERT ON unit_back TO earmark_app;
GRANT SELECT ON unit_out TO earmark_app;

CREATE FUNCTION units_come_back() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  UPDATE unit_content c SET shipped = false FROM new_back n WHERE c.unit_id = n.unit_id;
  RETURN NULL;
END $$;
CREATE TRIGGER units_come_back AFTER INSERT ON unit_back
  REFERENCING NEW TABLE AS new_back FOR EACH STATEMENT EXECUTE FUNCTION units_come_back();

-- A pallet leaves with every carton on it, a carton on a pallet with its pallet, and none twice.
CREATE OR REPLACE FUNCTION units_leave_whole() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  PERFORM FROM logistic_unit u
    JOIN new_shipped n ON n.unit_id = u.id
    ORDER BY u.id
    FOR NO KEY UPDATE OF u;
  IF EXISTS (
    SELECT
    FROM new_shipped n
      JOIN unit_out o ON o.unit_id = n.unit_id AND o.event_id <> n.event_id
  ) THEN
    RAISE EXCEPTION 'a unit leaves once'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'unit_leaves_once';
  END IF;
  IF EXISTS (
    SELECT
    FROM new_shipped n
      JOIN unit_on_pallet p ON n.unit_id IN (p.child_id, p.pallet_id)
    WHERE NOT EXISTS (
        SELECT FROM unit_shipped s WHERE s.unit_id = p.child_id AND s.event_id = n.event_id
      )
      OR NOT EXISTS (
        SELECT FROM unit_shipped s WHERE s.unit_id = p.pallet_id AND s.event_id = n.event_id
      )
  ) THEN
    RAISE EXCEPTION 'a pallet leaves with its cartons'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'units_leave_whole';
  END IF;
  UPDATE unit_content c SET shipped = true FROM new_shipped n WHERE c.unit_id = n.unit_id;
  RETURN NULL;
END $$;

CREATE OR REPLACE FUNCTION apply_packing() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF EXISTS (
    SELECT FROM new_packing n JOIN unit_out s ON s.unit_id IN (n.unit_id, n.child_id)
  ) THEN
    RAISE EXCEPTION 'a unit that has left is neither packed nor unpacked'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'not_after_shipping';
  END IF;
  IF EXISTS (
    SELECT
    FROM new_packing n
      JOIN logistic_unit u ON u.id = n.unit_id
      LEFT JOIN logistic_unit c ON c.id = n.child_id
    WHERE n.child_id IS NOT NULL AND (u.kind <> 'pallet' OR c.kind <> 'carton')
  ) THEN
    RAISE EXCEPTION 'only cartons stand on pallets'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'cartons_on_pallets';
  END IF;
  -- What is there already is changed first: an upsert would judge a taking out by itself, before
  -- it is added to what is in.
  WITH net AS MATERIALIZED (
    SELECT unit_id, mark_id, sum(quantity) AS quantity
    FROM new_packing
    WHERE mark_id IS NOT NULL
    GROUP BY unit_id, mark_id
  ),
  done AS (
    UPDATE unit_content c
    SET quantity = c.quantity + n.quantity
    FROM net n
    WHERE c.unit_id = n.unit_id AND c.mark_id = n.mark_id
    RETURNING c.unit_id, c.mark_id
  )
  INSERT INTO unit_content AS c (unit_id, mark_id, mark_kind, quantity)
  SELECT n.unit_id, n.mark_id, m.kind, n.quantity
  FROM net n
    JOIN mark m ON m.id = n.mark_id
  WHERE NOT EXISTS (
    SELECT FROM done d WHERE d.unit_id = n.unit_id AND d.mark_id = n.mark_id
  )
  ORDER BY 2, 1
  ON CONFLICT (unit_id, mark_id) DO UPDATE SET quantity = c.quantity + excluded.quantity;
  DELETE FROM unit_on_pallet p
  USING new_packing n
  WHERE n.child_id = p.child_id AND n.unit_id = p.pallet_id AND n.quantity < 0;
  INSERT INTO unit_on_pallet (child_id, pallet_id)
  SELECT child_id, unit_id
  FROM new_packing
  WHERE child_id IS NOT NULL AND quantity > 0
  ORDER BY 1;
  RETURN NULL;
END $$;

-- What customers have: every shipment that stands, less what came back of it and did not go again.
CREATE OR REPLACE VIEW sold AS
  SELECT s.mark_id, s.event_id,
    s.quantity - coalesce(
      (
        SELECT sum(r.quantity)
        FROM returned r
        WHERE r.mark_id = s.mark_id
          AND r.shipment_id = s.event_id
          AND NOT is_taken_back(r.event_id, r.mark_id)
      ),
        0
    ) AS quantity,
    s.quantity AS shipped
  FROM (
    SELECT v.mark_id, v.event_id, -sum(v.quantity) AS quantity
    FROM movement v
      JOIN event e ON e.id = v.event_id AND e.kind = 'ship'
    GROUP BY v.mark_id, v.event_id
  ) s
  WHERE NOT is_taken_back(s.event_id, s.mark_id);

-- No more comes back than left.
CREATE OR REPLACE FUNCTION returns_what_left() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  broken bigint;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtextextended('returned ' || mark_id, 0))
  FROM (SELECT DISTINCT mark_id FROM new_returned ORDER BY mark_id) m;
  SELECT n.mark_id INTO broken
  FROM (SELECT DISTINCT mark_id, shipment_id FROM new_returned) n
    LEFT JOIN sold s ON s.mark_id = n.mark_id AND s.event_id = n.shipment_id
  WHERE coalesce(s.quantity, -1) < 0
  LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION 'more of mark % comes back than left', broken
      USING ERRCODE = 'check_violation', CONSTRAINT = 'returns_what_left';
  END IF;
  RETURN NULL;
END $$;

-- A reversal mirrors what it takes back: mark by mark the same, the other way; never of a reversal,
-- never of the same twice, and no shipment of which something came back. Looked at when all its
-- rows are there.
CREATE FUNCTION mirrors_what_it_takes_back() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  undone event%ROWTYPE;
  broken bigint;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtextextended('taken back ' || NEW.reverses_id, 0));
  SELECT * INTO undone FROM event WHERE id = NEW.reverses_id;
  IF undone.kind = 'reversal' THEN
    RAISE EXCEPTION 'a reversal is not taken back'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'no_reversal_of_a_reversal';
  END IF;
  IF undone.kind IN ('build', 'repack', 'teardown', 'identify') THEN
    RETURN NULL;
  END IF;
  SELECT v.mark_id INTO broken
  FROM movement v
    JOIN event b ON b.id = v.event_id AND b.reverses_id = undone.id AND b.id <> NEW.id
  WHERE v.mark_id IN (SELECT mark_id FROM movement WHERE event_id = NEW.id)
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION 'what event % did to mark % is taken back already', undone.id, broken
      USING ERRCODE = 'check_violation', CONSTRAINT = 'taken_back_once';
  END IF;
  SELECT mark_id INTO broken
  FROM (
    SELECT mark_id, sum(quantity) AS quantity FROM movement WHERE event_id = NEW.id GROUP BY 1
  ) back
    FULL JOIN (
      SELECT mark_id, sum(quantity) AS quantity
      FROM movement
      WHERE event_id = undone.id
        AND mark_id IN (SELECT mark_id FROM movement WHERE event_id = NEW.id)
      GROUP BY 1
    ) did USING (mark_id)
  WHERE back.quantity IS DISTINCT FROM -did.quantity
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION 'event % takes back something else of mark % than event % did',
      NEW.id, broken, undone.id
      USING ERRCODE = 'check_violation', CONSTRAINT = 'mirrors_what_it_takes_back';
  END IF;
  IF undone.kind = 'ship' THEN
    PERFORM pg_advisory_xact_lock(hashtextextended('returned ' || mark_id, 0))
    FROM (SELECT DISTINCT mark_id FROM movement WHERE event_id = NEW.id ORDER BY mark_id) m;
    SELECT r.mark_id INTO broken
    FROM returned r
    WHERE r.shipment_id = undone.id
      AND r.mark_id IN (SELECT mark_id FROM movement WHERE event_id = NEW.id)
      AND NOT is_taken_back(r.event_id, r.mark_id)
    LIMIT 1;
    IF FOUND THEN
      RAISE EXCEPTION 'some of mark % came back of the shipment that is taken back', broken
        USING ERRCODE = 'check_violation', CONSTRAINT = 'returns_what_left';
    END IF;
  END IF;
  RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER mirrors_what_it_takes_back AFTER INSERT ON event
  DEFERRABLE INITIALLY DEFERRED
  FOR EACH ROW WHEN (NEW.reverses_id IS NOT NULL)
  EXECUTE FUNCTION mirrors_what_it_takes_back();
