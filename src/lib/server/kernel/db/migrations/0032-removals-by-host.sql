-- What is in a host is asked once for each host of a booking, not once for each part that comes out of it.
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
      SELECT h.host_id, h.event_id, n.part, n.went_in - n.came_out AS amount
      FROM (SELECT DISTINCT host_id, event_id FROM asked) h
        CROSS JOIN LATERAL inside_of(h.host_id, h.event_id) n
    )
    SELECT
    FROM asked a
      LEFT JOIN inside i
        ON i.host_id = a.host_id AND i.event_id = a.event_id AND i.part = a.component_id
    WHERE a.quantity > coalesce(i.amount, 0) + 0.000001
  ) THEN
    RAISE EXCEPTION 'a part is taken out of a unit that does not have it'
      USING ERRCODE = 'check_violation', CONSTRAINT = 'gives_back_what_went_in';
  END IF;
  RETURN NULL;
END $$;
