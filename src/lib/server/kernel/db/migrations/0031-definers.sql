-- A function that works as its owner finds what it names where its path says. A path that leaves pg_temp out has it
-- searched first: a table of that name there, with a trigger, would run as the owner. So it is named, and last.
DO $$
DECLARE
  definer regprocedure;
BEGIN
  FOR definer IN
    SELECT p.oid::regprocedure
    FROM pg_proc p
    WHERE p.pronamespace = 'public'::regnamespace
      AND p.prosecdef
  LOOP
    EXECUTE format('ALTER FUNCTION %s SET search_path = pg_catalog, public, pg_temp', definer);
  END LOOP;
END $$;
