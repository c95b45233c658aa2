-- A turn is one purchase order, the work order that uses what it brings, and the sales order of
-- what is made, spread evenly over three years. The youngest turns are open, in every state.

CREATE TEMP TABLE turn AS
SELECT k, k % firm.groups AS g, is_open, step,
  firm.since + k * (interval '1090 days' / firm.orders) AS at,
  CASE WHEN NOT is_open OR step > 3 THEN firm.units + firm.spare
    WHEN step > 1 THEN (firm.units + firm.spare) / 2
    ELSE 0 END AS parts,
  NOT is_open OR step > 1 AS has_lot,
  CASE WHEN k < 2 THEN 0
    WHEN NOT is_open OR step = 5 THEN firm.units
    WHEN step = 4 THEN firm.units / 2
    ELSE 0 END AS built,
  CASE WHEN k < 2 OR is_open THEN 0 ELSE firm.units / 2 END AS shipped,
  firm.first_event + 8 * k AS event0,
  firm.first_mark + k * (2 * firm.units + firm.spare + 1) AS mark0,
  supplier.id AS supplier, customer.id AS customer, rack.id AS rack,
  bought.id AS bought, lot.id AS lot, made.id AS made
FROM firm
CROSS JOIN LATERAL (
  SELECT k, k >= firm.orders - firm.still_open AS is_open, k % 6 AS step
  FROM generate_series(0, firm.orders - 1) k
) turn
JOIN trader supplier ON supplier.supplier AND supplier.n = k % firm.suppliers
JOIN trader customer ON NOT customer.supplier AND customer.n = k % firm.customers
JOIN rack ON rack.n = k % 500
JOIN good bought ON bought.kind = 'P' AND bought.g = k % firm.groups
JOIN good lot ON lot.kind = 'L' AND lot.g = k % firm.groups
JOIN good made ON made.kind = 'M' AND made.g = k % firm.groups;

INSERT INTO trade_order (kind, number, partner_id, place_id, placed_on, due_on, bill_id)
SELECT 'purchase', 'LPO-' || k, supplier, rack, at::date, at::date + 14, NULL::bigint
FROM turn
UNION ALL
SELECT 'work', 'LWO-' || k, NULL, rack, at::date, at::date + 21, bill.id
FROM turn
JOIN bill ON bill.product_id = made
UNION ALL
SELECT 'sales', 'LSO-' || k, customer, NULL, at::date, at::date + 28, NULL
FROM turn;

CREATE TEMP TABLE paper AS
SELECT split_part(number, '-', 2)::bigint AS k, kind, id
FROM trade_order
WHERE number ~ '^L[PWS]O-';

INSERT INTO order_line (order_id, line, product_id, quantity, unit_price)
SELECT paper.id, 1, bought, firm.units + firm.spare, 4
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
WHERE paper.kind = 'purchase'
UNION ALL
SELECT paper.id, 2, lot, 1.5 * firm.units, 2
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
WHERE paper.kind = 'purchase'
UNION ALL
SELECT paper.id, 1, made, firm.units, NULL
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
WHERE paper.kind = 'work'
UNION ALL
SELECT paper.id, 1, made, firm.units / 2, NULL
FROM firm
CROSS JOIN turn
JOIN paper USING (k)
WHERE paper.kind = 'sales';
ANALYZE turn;
ANALYZE paper;
