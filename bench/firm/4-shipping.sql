-- Cartons of what was shipped, and what is promised and to be picked for orders that are open.

INSERT INTO logistic_unit (sscc, kind, order_id, event_id)
SELECT body || (10 - odd.sum % 10) % 10, 'carton', paper.id, event0 + 3
FROM turn
JOIN paper USING (k)
CROSS JOIN LATERAL (SELECT '39520600' || lpad(k::text, 9, '0') AS body) sscc
CROSS JOIN LATERAL (
  SELECT sum(substr(body, i, 1)::integer * CASE WHEN i % 2 = 1 THEN 3 ELSE 1 END) AS sum
  FROM generate_series(1, 17) i
) odd
WHERE paper.kind = 'sales' AND shipped > 0 AND k % 5 = 0;

INSERT INTO packing (event_id, unit_id, mark_id, quantity)
SELECT u.event_id, u.id, mark0 + 1 + firm.units + firm.spare + j, 1
FROM firm
CROSS JOIN turn
JOIN logistic_unit u ON u.event_id = turn.event0 + 3
CROSS JOIN LATERAL generate_series(0, shipped - 1) j;

INSERT INTO unit_content (unit_id, mark_id, mark_kind, quantity, shipped)
SELECT p.unit_id, p.mark_id, 'serial', p.quantity, true
FROM firm
CROSS JOIN packing p
WHERE p.event_id >= firm.first_event;

INSERT INTO unit_shipped (unit_id, event_id)
SELECT u.id, u.event_id + 1
FROM firm
CROSS JOIN logistic_unit u
WHERE u.event_id >= firm.first_event;

-- Promised: what an earlier turn of the same product made and kept.
CREATE TEMP TABLE promise AS
SELECT paper.id AS order_id, turn.k, earlier.rack,
  earlier.mark0 + 1 + firm.units + firm.spare + firm.units / 2 + j AS mark_id
FROM firm
CROSS JOIN turn
JOIN paper ON paper.k = turn.k
CROSS JOIN LATERAL generate_series(0, firm.units / 2 - 1) j
JOIN turn earlier ON earlier.k = turn.k - firm.groups * (firm.still_open / firm.groups + 1)
WHERE paper.kind = 'sales' AND turn.is_open AND turn.step IN (0, 2, 5);

INSERT INTO reservation (order_id, line, mark_id, quantity, promised_by)
SELECT order_id, 1, mark_id, 1, firm.shipper
FROM firm
CROSS JOIN promise;

INSERT INTO pick (order_id, line, product_id, mark_id, place_id, quantity)
SELECT order_id, 1, turn.made, mark_id, promise.rack, 1
FROM promise
JOIN turn ON turn.k = promise.k
WHERE turn.step = 5;
