-- What changed is told to every process that listens, when and only when it is committed. A topic is
-- all that is told: whoever shows what it is about reads that anew, with the right to see it.
CREATE FUNCTION tell_news() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  PERFORM pg_notify('earmark_news', TG_ARGV[0]);
  RETURN NULL;
END $$;

DO $$
DECLARE
  told text[];
BEGIN
  FOREACH told SLICE 1 IN ARRAY ARRAY[
    ['event', 'ledger'],
    ['trade_order', 'orders'],
    ['reservation', 'orders'],
    ['pick', 'picks'],
    ['count_entry', 'counts'],
    ['count_place', 'counts'],
    ['stock_count', 'counts'],
    ['service_job', 'service']
  ] LOOP
    EXECUTE format(
      'CREATE TRIGGER tell_news AFTER INSERT OR UPDATE OR DELETE ON %I
       FOR EACH STATEMENT EXECUTE FUNCTION tell_news(%L)',
      told[1], told[2]
    );
  END LOOP;
END $$;
