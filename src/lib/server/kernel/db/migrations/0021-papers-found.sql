-- The number of the paper an event goes by. Where an order is delivered in parts under its own number,
-- each delivery, and each receipt, is counted: `SO-3317/2`. It stays when an earlier one is taken back.
CREATE FUNCTION paper_number(asked bigint) RETURNS text
LANGUAGE sql STABLE AS $$
  SELECT CASE
    WHEN e.kind NOT IN ('ship', 'receive') OR upper(e.document) IS DISTINCT FROM upper(o.number)
      THEN e.document
    ELSE e.document || '/' || (
      SELECT count(*)
      FROM public.event f
      WHERE f.order_id = e.order_id AND f.kind = e.kind AND f.id <= e.id
    )
  END
  FROM public.event e
    LEFT JOIN public.trade_order o ON o.id = e.order_id
  WHERE e.id = asked
$$;
GRANT EXECUTE ON FUNCTION paper_number(bigint) TO earmark_app;

-- The scan field: what other firms told of, by the number at the end of its identifier.
ALTER TABLE foreign_epc
  ADD COLUMN number_key text
    GENERATED ALWAYS AS (upper(substring(epc FROM '[^/.:]+$') COLLATE "C")) STORED;
CREATE INDEX foreign_epc_number ON foreign_epc (number_key);
