-- The ledger of every turn: received, built, packed, shipped, some of it returned; and its stock.

INSERT INTO event (id, kind, document, order_id, partner_id, happened_at, booked_at, booked_by)
SELECT event0 + 1, 'receive', 'LGR-' || k, paper.id, supplier, at, at, firm.receiver
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
WHERE paper.kind = 'purchase' AND (parts > 0 OR has_lot)
UNION ALL
SELECT event0 + 2, 'build', 'LBR-' || k, paper.id, NULL, made.at, made.at, firm.builder
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
CROSS JOIN LATERAL (SELECT at + interval '1 day' AS at) made
WHERE paper.kind = 'work' AND built > 0
UNION ALL
SELECT event0 + 3, 'pack', 'LPK-' || k, paper.id, NULL, packed.at, packed.at, firm.shipper
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
CROSS JOIN LATERAL (SELECT at + interval '2 days' AS at) packed
WHERE paper.kind = 'sales' AND shipped > 0 AND k % 5 = 0
UNION ALL
SELECT event0 + 4, 'ship', 'LDN-' || k, paper.id, customer, sent.at, sent.at, firm.shipper
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
CROSS JOIN LATERAL (SELECT at + interval '3 days' AS at) sent
WHERE paper.kind = 'sales' AND shipped > 0
UNION ALL
SELECT event0 + 5, 'return', 'LRT-' || k, NULL, customer, back.at, back.at, firm.shipper
FROM firm
CROSS JOIN turn
CROSS JOIN LATERAL (SELECT at + interval '4 days' AS at) back
WHERE shipped > 0 AND k % 100 = 0;

INSERT INTO mark (id, product_id, kind, number, birth_event, supplier_number, expires_on)
SELECT mark0, lot, 'lot', 'LL-' || k, event0 + 1, 'ROLL-' || k, at::date + 730
FROM turn
WHERE has_lot;

INSERT INTO mark (id, product_id, kind, number, birth_event, warranty_start, warranty_months)
SELECT mark0 + 1 + j, bought, 'serial', 'LP-' || k || '-' || j, event0 + 1, at::date, 24
FROM turn
CROSS JOIN generate_series(0, parts - 1) j;

INSERT INTO mark (id, product_id, kind, number, birth_event, made_on, facts)
SELECT mark0 + 1 + firm.units + firm.spare + j, made, 'serial', 'LM-' || k || '-' || j,
  event0 + 2, at::date + 1, jsonb_build_object('batch', k::text)
FROM firm
CROSS JOIN turn
CROSS JOIN generate_series(0, built - 1) j;

INSERT INTO transformation (id, event_id)
SELECT firm.first_tie + k * firm.units + j, event0 + 2
FROM firm
CROSS JOIN turn
CROSS JOIN generate_series(0, built - 1) j;

INSERT INTO transformation_input (transformation_id, mark_id, quantity)
SELECT firm.first_tie + turn.k * firm.units + j, used.mark_id, used.quantity
FROM firm
CROSS JOIN turn
CROSS JOIN LATERAL generate_series(0, turn.built - 1) j
CROSS JOIN LATERAL (
  SELECT turn.mark0 + 1 + j AS mark_id, 1 AS quantity
  UNION ALL
  SELECT firm.first_mark + (turn.k - back) * (2 * firm.units + firm.spare + 1), 0.5
  FROM generate_series(0, 2) back
) used;

INSERT INTO transformation_output (transformation_id, mark_id, quantity)
SELECT firm.first_tie + k * firm.units + j, mark0 + 1 + firm.units + firm.spare + j, 1
FROM firm
CROSS JOIN turn
CROSS JOIN generate_series(0, built - 1) j;

-- Received: lots of old turns are just enough for what used them, later ones last.
INSERT INTO movement (event_id, place_id, mark_id, quantity, unit_cost)
SELECT event0 + 1, rack, mark0,
  CASE WHEN k > 1 AND k < firm.orders * 0.8 THEN 1.5 * firm.units ELSE 100 * firm.units END, 2
FROM firm
CROSS JOIN turn
WHERE has_lot
UNION ALL
SELECT event0 + 1, rack, mark0 + 1 + j, 1, 4
FROM turn
CROSS JOIN generate_series(0, parts - 1) j;

INSERT INTO movement (event_id, place_id, mark_id, quantity)
SELECT event0 + 2, rack, mark0 + 1 + j, -1
FROM turn
CROSS JOIN generate_series(0, built - 1) j
UNION ALL
SELECT event0 + 2, rack, mark0 + 1 + firm.units + firm.spare + j, 1
FROM firm
CROSS JOIN turn
CROSS JOIN generate_series(0, built - 1) j
UNION ALL
SELECT turn.event0 + 2, source.rack, source.mark0, -0.5 * turn.built
FROM turn
CROSS JOIN generate_series(0, 2) back
JOIN turn source ON source.k = turn.k - back
WHERE turn.built > 0;

INSERT INTO movement (event_id, place_id, mark_id, quantity)
SELECT event0 + 4, rack, mark0 + 1 + firm.units + firm.spare + j, -1
FROM firm
CROSS JOIN turn
CROSS JOIN generate_series(0, shipped - 1) j
UNION ALL
SELECT event0 + 5, rack, mark0 + 1 + firm.units + firm.spare, 1
FROM firm
CROSS JOIN turn
WHERE shipped > 0 AND k % 100 = 0;

INSERT INTO returned (event_id, mark_id, shipment_id, quantity)
SELECT event0 + 5, mark0 + 1 + firm.units + firm.spare, event0 + 4, 1
FROM firm
CROSS JOIN turn
WHERE shipped > 0 AND k % 100 = 0;

-- What was received costs what was paid, what was made the sum of what went in.
INSERT INTO mark_cost (mark_id, event_id, told_by, unit_cost)
SELECT mark0, event0 + 1, event0 + 1, 2
FROM turn
WHERE has_lot
UNION ALL
SELECT mark0 + 1 + j, event0 + 1, event0 + 1, 4
FROM turn
CROSS JOIN generate_series(0, parts - 1) j
UNION ALL
SELECT mark0 + 1 + firm.units + firm.spare + j, event0 + 2, event0 + 2, 7
FROM firm
CROSS JOIN turn
CROSS JOIN generate_series(0, built - 1) j;

INSERT INTO stock (mark_id, place_id, mark_kind, product_id, expires_on, quantity, latest)
SELECT v.mark_id, v.place_id, m.kind, m.product_id, m.expires_on, sum(v.quantity), max(e.happened_at)
FROM firm
CROSS JOIN movement v
JOIN mark m ON m.id = v.mark_id
JOIN event e ON e.id = v.event_id
WHERE v.mark_id >= firm.first_mark
GROUP BY v.mark_id, v.place_id, m.kind, m.product_id, m.expires_on;

INSERT INTO booking_key (person_id, key, request_hash, event_id, answer, kept_at)
SELECT e.booked_by, 'large ' || e.id, sha256(e.document::text::bytea), e.id, '{}', e.booked_at
FROM firm
CROSS JOIN event e
WHERE e.id >= firm.first_event;
