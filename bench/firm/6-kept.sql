-- What is kept beside the rows, as triggers would have: how far orders are,
-- which tests wait. Sequences go on behind
-- what was numbered by hand.

INSERT INTO order_booked (order_id, product_id, done)
SELECT d.order_id, d.product_id, coalesce(d.done, 0)
FROM order_done d
JOIN paper ON paper.id = d.order_id;
ANALYZE order_booked;

INSERT INTO waiting_order (order_id)
SELECT id
FROM paper
WHERE order_waits(id);

INSERT INTO unsigned_test (test_id)
SELECT id
FROM quality_test t
WHERE key ~ '^large ' AND NOT EXISTS (SELECT FROM test_signature s WHERE s.test_id = t.id);

SELECT setval('event_id_seq', (SELECT max(id) FROM event)),
  setval('mark_id_seq', (SELECT max(id) FROM mark)),
  setval('transformation_id_seq', (SELECT max(id) FROM transformation));
