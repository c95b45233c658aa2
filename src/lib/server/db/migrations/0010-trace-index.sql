-- What the index in memory needs to be brought up to date at every question without missing a committed booking.

-- The transaction that booked an event. Ids are given before a booking commits, so a later id may be there first; with its transaction
-- an event is found as soon as it can be seen, whatever its id. Means something in this cluster only: see db/after-restore.ts.
ALTER TABLE event ADD COLUMN booked_xid xid8 NOT NULL DEFAULT pg_current_xact_id();
CREATE INDEX event_booked_xid ON event (booked_xid) INCLUDE (id);      -- the index in memory: what was booked since
CREATE INDEX fitting_from ON fitting (from_event);                     -- the same for fittings

-- All rows of a booking come in the transaction of their event, so whoever sees the event sees all of it and nothing is added to it later.
CREATE FUNCTION comes_with_its_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (SELECT FROM (SELECT DISTINCT event_id FROM new_rows) n JOIN event e ON e.id = n.event_id WHERE e.booked_xid <> pg_current_xact_id()) THEN
    RAISE EXCEPTION 'rows of % are booked with their event, not later', TG_TABLE_NAME USING ERRCODE = 'check_violation', CONSTRAINT = 'comes_with_its_event';
  END IF;
  RETURN NULL;
END $$;
CREATE FUNCTION mark_comes_with_its_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (SELECT FROM (SELECT DISTINCT birth_event FROM new_rows) n JOIN event e ON e.id = n.birth_event WHERE e.booked_xid <> pg_current_xact_id()) THEN
    RAISE EXCEPTION 'a mark is born in the booking of its event, not later' USING ERRCODE = 'check_violation', CONSTRAINT = 'comes_with_its_event';
  END IF;
  RETURN NULL;
END $$;
CREATE FUNCTION side_comes_with_its_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (SELECT FROM (SELECT DISTINCT transformation_id FROM new_rows) n JOIN transformation t ON t.id = n.transformation_id JOIN event e ON e.id = t.event_id WHERE e.booked_xid <> pg_current_xact_id()) THEN
    RAISE EXCEPTION 'what went into a transformation and came out of it is booked with it, not later' USING ERRCODE = 'check_violation', CONSTRAINT = 'comes_with_its_event';
  END IF;
  RETURN NULL;
END $$;
CREATE FUNCTION fitting_comes_with_its_event() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  IF EXISTS (SELECT FROM (SELECT DISTINCT from_event FROM new_rows) n JOIN event e ON e.id = n.from_event WHERE e.booked_xid <> pg_current_xact_id()) THEN
    RAISE EXCEPTION 'a fitting is booked with its event, not later' USING ERRCODE = 'check_violation', CONSTRAINT = 'comes_with_its_event';
  END IF;
  RETURN NULL;
END $$;
DO $$
DECLARE
  row record;
BEGIN
  FOR row IN SELECT * FROM (VALUES ('movement', 'comes_with_its_event'), ('mark_change', 'comes_with_its_event'), ('transformation', 'comes_with_its_event'), ('transformation_reversed', 'comes_with_its_event'),
    ('mark', 'mark_comes_with_its_event'), ('transformation_input', 'side_comes_with_its_event'), ('transformation_output', 'side_comes_with_its_event'), ('fitting', 'fitting_comes_with_its_event')) v (name, runs) LOOP
    EXECUTE format('CREATE TRIGGER comes_with_its_event AFTER INSERT ON %I REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION %I()', row.name, row.runs);
  END LOOP;
END $$;
