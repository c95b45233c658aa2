-- What the firm has before it books: sites with racks, suppliers, customers, products in four kinds,
-- the bill and the spec of each product it makes. `firm` has one row: the sizes and first ids.

INSERT INTO site (code, name)
SELECT 'L' || n, 'Works ' || n
FROM generate_series(1, 4) n;

INSERT INTO place (site_id, code, name, kind)
SELECT s.id, s.code || '-R' || lpad(r::text, 3, '0'), 'rack ' || r, 'rack'
FROM site s
CROSS JOIN generate_series(1, 125) r
WHERE s.code ~ '^L[0-9]$';

CREATE TEMP TABLE rack AS
SELECT row_number() OVER (ORDER BY code) - 1 AS n, id
FROM place
WHERE code ~ '^L[0-9]-R';

INSERT INTO partner (code, name, supplier, customer, address)
SELECT 'LSUP-' || n, 'Supplier ' || n || ' of the large world', true, false, n || ' Mill Lane'
FROM firm
CROSS JOIN generate_series(0, firm.suppliers - 1) n
UNION ALL
SELECT 'LCUS-' || n, 'Customer ' || n || ' of the large world', false, true, n || ' Quay Street'
FROM firm
CROSS JOIN generate_series(0, firm.customers - 1) n;

CREATE TEMP TABLE trader AS
SELECT split_part(code, '-', 2)::integer AS n, supplier, id
FROM partner
WHERE code ~ '^L(SUP|CUS)-';

-- A group is one made product with the serial part and the three lots it is made from.
INSERT INTO product (code, name, unit, decimals, made, marking, warranty_months, shelf_life_days)
SELECT 'LP-' || g, 'large part ' || g, 'each', 0, false, 'serial', 24, NULL::integer
FROM firm
CROSS JOIN generate_series(0, firm.groups - 1) g
UNION ALL
SELECT 'LL-' || g, 'large lot ' || g, 'kg', 3, false, 'lot', NULL, 730
FROM firm
CROSS JOIN generate_series(0, firm.groups - 1) g
UNION ALL
SELECT 'LM-' || g, 'large unit ' || g, 'each', 0, true, 'serial', 24, NULL
FROM firm
CROSS JOIN generate_series(0, firm.groups - 1) g
UNION ALL
SELECT 'LX-' || x, 'seldom bought ' || x, 'each', 0, false, 'lot', NULL, NULL
FROM firm
CROSS JOIN generate_series(0, firm.products - 3 * firm.groups - 1) x;

CREATE TEMP TABLE good AS
SELECT substr(code, 2, 1) AS kind, split_part(code, '-', 2)::integer AS g, id
FROM product
WHERE code ~ '^L[PLMX]-';

INSERT INTO bill (product_id, version, valid_from, made_by)
SELECT good.id, 1, current_date - 1200, firm.coordinator
FROM firm
CROSS JOIN good
WHERE good.kind = 'M';

INSERT INTO bill_part (bill_id, line, component_id, quantity, per, follow)
SELECT b.id, part.line, component.id, part.quantity, 'unit', part.follow
FROM firm
CROSS JOIN good made
JOIN bill b ON b.product_id = made.id
CROSS JOIN (
  VALUES (1, 'P', 0, 1, 'unit'),
    (2, 'L', 0, 0.5, 'batch'),
    (3, 'L', 1, 0.5, 'batch'),
    (4, 'L', 2, 0.5, 'batch')
) AS part (line, kind, back, quantity, follow)
JOIN good component ON component.kind = part.kind
  AND component.g = (made.g - part.back + firm.groups) % firm.groups
WHERE made.kind = 'M';

INSERT INTO spec (product_id, version, body, made_by)
SELECT id, 1,
  '{"limits": [{"name": "pull", "kind": "number", "unit": "N", "least": "100", "most": null,
    "choices": [], "good": [], "required": true}],
    "sampling": "one in ten", "holdOnFail": false, "retestDays": null}'::jsonb,
  firm.coordinator
FROM firm
CROSS JOIN good
WHERE kind = 'M';
