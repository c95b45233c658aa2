-- Parts are put into units, taken out, and swapped.
ALTER TABLE event DROP CONSTRAINT event_kind_check;
ALTER TABLE event ADD CONSTRAINT event_kind_check CHECK (kind IN (
  'receive', 'put away', 'move', 'transfer', 'build', 'repack', 'teardown', 'identify', 'pack',
  'unpack', 'ship', 'count', 'gain', 'loss', 'scrap', 'hold', 'release', 'reject', 'return', 'fit',
  'remove', 'swap', 'station', 'amendment', 'reversal'
));

-- What made a unit is not taken back from under parts that were put in or taken out since.
CREATE FUNCTION leaves_what_was_fitted() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  broken bigint;
BEGIN
  SELECT h.mark_id INTO broken
  FROM new_rows r
    JOIN transformation made ON made.id = r.transformation_id
    JOIN transformation_output h ON h.transformation_id = r.transformation_id
    CROSS JOIN LATERAL (
      SELECT f.component_id AS part, f.quantity
      FROM fitting f
      WHERE f.host_id = h.mark_id AND f.from_event > made.event_id
      UNION ALL
      SELECT o.component_id, -o.quantity
      FROM removal o
      WHERE o.host_id = h.mark_id AND o.event_id > made.event_id
    ) changed
  GROUP BY h.mark_id, changed.part
  HAVING sum(changed.quantity) <> 0
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION 'parts of mark % were changed since it was made', broken
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER leaves_what_was_fitted AFTER INSERT ON transformation_reversed
  REFERENCING NEW TABLE AS new_rows FOR EACH STATEMENT EXECUTE FUNCTION leaves_what_was_fitted();
