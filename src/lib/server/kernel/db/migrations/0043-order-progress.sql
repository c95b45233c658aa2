-- How far an order is, kept as bookings come: a list of what waits reads what waits, and not all
-- that was ever ordered. The view order_done says the same from the movements; reconcile compares.
CREATE TABLE order_booked (
  order_id    bigint NOT NULL REFERENCES trade_order,
  product_id  bigint NOT NULL REFERENCES product,
  done        numeric NOT NULL,
  PRIMARY KEY (order_id, product_id)
);
INSERT INTO order_booked (order_id, product_id, done)
SELECT order_id, product_id, coalesce(done, 0)
FROM order_done
WHERE order_id IS NOT NULL;

-- The orders that are neither complete nor closed by hand.
CREATE TABLE waiting_order (
  order_id  bigint PRIMARY KEY REFERENCES trade_order
);
CREATE INDEX trade_order_due ON trade_order (kind, due_on DESC, number DESC);

CREATE FUNCTION order_waits(wanted bigint) RETURNS boolean
LANGUAGE sql STABLE AS $$
  SELECT EXISTS (SELECT FROM trade_order WHERE id = wanted AND closed_at IS NULL)
    AND EXISTS (
      SELECT
      FROM order_line l
        LEFT JOIN order_booked b ON b.order_id = l.order_id AND b.product_id = l.product_id
      WHERE l.order_id = wanted
      GROUP BY l.product_id
      HAVING sum(l.quantity) > coalesce(max(b.done), 0)
    )
$$;
INSERT INTO waiting_order (order_id)
SELECT id
FROM trade_order
WHERE order_waits(id);

-- Of two that complete an order together the second must see the first: the order is locked, as
-- every booking against it locks it already.
CREATE FUNCTION keep_waiting(orders bigint[]) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  PERFORM FROM trade_order WHERE id = ANY (orders) ORDER BY id FOR NO KEY UPDATE;
  DELETE FROM waiting_order WHERE order_id = ANY (orders) AND NOT order_waits(order_id);
  INSERT INTO waiting_order (order_id)
  SELECT id
  FROM unnest(orders) AS id
  WHERE order_waits(id)
  ON CONFLICT DO NOTHING;
END $$;
REVOKE EXECUTE ON FUNCTION keep_waiting FROM PUBLIC;

CREATE FUNCTION count_towards_orders() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  orders bigint[];
BEGIN
  SELECT array_agg(DISTINCT e.order_id) INTO orders
  FROM event e
  WHERE e.id IN (SELECT event_id FROM new_movements) AND e.order_id IS NOT NULL;
  IF orders IS NULL THEN RETURN NULL; END IF;
  -- Word for word what counts in order_done.
  INSERT INTO order_booked AS b (order_id, product_id, done)
  SELECT e.order_id, m.product_id,
    coalesce(
      sum(v.quantity) FILTER (
        WHERE e.kind IN ('receive', 'ship', 'return')
          OR (e.kind = 'build' AND v.quantity > 0)
          OR (e.kind = 'reversal' AND (v.quantity < 0 OR o.kind = 'sales'))
          OR (e.kind IN ('build', 'reversal', 'scrap') AND born.order_id = e.order_id)
      ),
      0
    ) * CASE WHEN o.kind = 'sales' THEN -1 ELSE 1 END
  FROM new_movements v
    JOIN event e ON e.id = v.event_id
    JOIN trade_order o ON o.id = e.order_id
    JOIN mark m ON m.id = v.mark_id
    JOIN event born ON born.id = m.birth_event
  GROUP BY e.order_id, m.product_id, o.kind
  ORDER BY 1, 2
  ON CONFLICT (order_id, product_id) DO UPDATE SET done = b.done + excluded.done;
  PERFORM keep_waiting(orders);
  RETURN NULL;
END $$;
CREATE TRIGGER count_towards_orders AFTER INSERT ON movement
REFERENCING NEW TABLE AS new_movements
FOR EACH STATEMENT EXECUTE FUNCTION count_towards_orders();

-- What is ordered, and whether it is closed, decide with it.
CREATE FUNCTION lines_decide_waiting() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  PERFORM keep_waiting(ARRAY(SELECT DISTINCT order_id FROM changed_lines ORDER BY order_id));
  RETURN NULL;
END $$;
CREATE TRIGGER lines_decide_waiting AFTER INSERT ON order_line
REFERENCING NEW TABLE AS changed_lines
FOR EACH STATEMENT EXECUTE FUNCTION lines_decide_waiting();
CREATE TRIGGER changed_lines_decide_waiting AFTER UPDATE ON order_line
REFERENCING NEW TABLE AS changed_lines
FOR EACH STATEMENT EXECUTE FUNCTION lines_decide_waiting();
CREATE TRIGGER lost_lines_decide_waiting AFTER DELETE ON order_line
REFERENCING OLD TABLE AS changed_lines
FOR EACH STATEMENT EXECUTE FUNCTION lines_decide_waiting();

CREATE FUNCTION closing_decides_waiting() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  PERFORM keep_waiting(ARRAY[NEW.id]);
  RETURN NULL;
END $$;
CREATE TRIGGER closing_decides_waiting AFTER UPDATE OF closed_at ON trade_order
FOR EACH ROW WHEN (NEW.closed_at IS DISTINCT FROM OLD.closed_at)
EXECUTE FUNCTION closing_decides_waiting();

GRANT SELECT ON order_booked, waiting_order TO earmark_app;
