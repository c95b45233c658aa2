-- What the index in memory needs to be brought up to date at every question without missing a committed booking.

-- The transaction that booked an event. Ids are given before a booking commits, so a later id may be there first; with its transaction
-- an event is found as soon as it can be seen, whatever its id. Means something in this cluster only: see db/after-restore.ts.
ALTER TABLE event ADD COLUMN booked_xid xid8 NOT NULL DEFAULT pg_current_xact_id();
CREATE INDEX event_booked_xid ON event (booked_xid) INCLUDE (id);      -- the index in memory: what was booked since
CREATE INDEX fitting_from ON fitting (from_event);                     -- the same for fittings

-- All rows of a booking come in the transaction of their event, so whoever sees the event sees all of it and nothing is added to it later.
-- One function for each way a row names its event: a plan kept for each, as these run with every booking.
DO $$
DECLARE
  way record;
  name text;
BEGIN
  FOR way IN SELECT * FROM (VALUES
    ('comes_with_its_event', 'event e ON e.id = n.event_id', 'event_id', ARRAY['movement', 'mark_change', 'transformation', 'transformation_reversed']),
    ('is_born_with_its_event', 'event e ON e.id = n.birth_event', 'birth_event', ARRAY['mark']),
    ('is_fitted_with_its_event', 'event e ON e.id = n.from_event', 'from_event', ARRAY['fitting']),
    ('is_tied_with_its_event', 'transformation t ON t.id = n.transformation_id JOIN event e ON e.id = t.event_id', 'transformation_id', ARRAY['transformation_input', 'transformation_output'])
  ) v (runs, joins, column_name, tables) LOOP
    EXECUTE format($f$
      CREATE FUNCTION %I() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $body$
      BEGIN
        IF EXISTS (SELECT FROM (SELECT DISTINCT %I FROM new_rows) n JOIN %s WHERE e.booked_xid <> pg_current_xact_id()) THEN
          RAISE EXCEPTION 'rows of %% are booked with their event, not later', TG_TABLE_NAME USING ERRCODE = 'check_violation', CONSTRAINT = 'comes_with_its_event';
        END IF;
        RETURN NULL;
      END $body$ $f$, way.runs, way.column_name, way.joins);
    FOREACH name IN ARRAY way.tables LOOP
      EXECUTE format('CREATE TRIGGER comes_with_its_event AFTER INSERT ON %I REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION %I()', name, way.runs);
    END LOOP;
  END LOOP;
END $$;
