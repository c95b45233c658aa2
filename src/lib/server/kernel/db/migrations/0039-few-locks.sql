-- What comes back is locked by a part of its number and not mark by mark: of ten thousand serials
-- that come back at once each lock would be one of the few thousand the database has.
CREATE OR REPLACE FUNCTION returns_what_left() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  broken bigint;
BEGIN
  PERFORM pg_advisory_xact_lock(hashtextextended('returned ' || bucket, 0))
  FROM (SELECT DISTINCT mark_id % 256 AS bucket FROM new_returned ORDER BY bucket) m;
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

CREATE OR REPLACE FUNCTION mirrors_what_it_takes_back() RETURNS trigger
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
    PERFORM pg_advisory_xact_lock(hashtextextended('returned ' || bucket, 0))
    FROM (
      SELECT DISTINCT mark_id % 256 AS bucket FROM movement WHERE event_id = NEW.id ORDER BY bucket
    ) m;
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
