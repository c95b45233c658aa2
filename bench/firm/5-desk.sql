-- What lies on desks: tests, holds, labels, drafts, recalls, service jobs, counts.

INSERT INTO quality_test (mark_id, spec_id, taken_at, instrument, sample, results, tested_by, key)
SELECT mark0 + 1 + firm.units + firm.spare, spec.id, at + interval '2 days', 'pull bench', '',
  '[{"name": "pull", "unit": "N", "value": "120"}]'::jsonb, firm.quality, 'large ' || k
FROM firm
CROSS JOIN turn
JOIN spec ON spec.product_id = made
WHERE built > 0;

-- All but the youngest are signed by a second person.
INSERT INTO test_signature (test_id, signed_by)
SELECT t.id, firm.coordinator
FROM firm
CROSS JOIN quality_test t
WHERE t.key ~ '^large ' AND substr(t.key, 7)::bigint < firm.orders - firm.still_open;

-- Every five-hundredth turn has a unit on hand that is held.
INSERT INTO event (id, kind, document, happened_at, booked_at, booked_by, reason)
SELECT event0 + 6, 'hold', 'LHD-' || k, held.at, held.at, firm.quality, 'Pulls below the limit.'
FROM firm
CROSS JOIN turn
CROSS JOIN LATERAL (SELECT at + interval '4 days' AS at) held
WHERE built > 0 AND k % 500 = 250;

INSERT INTO mark_change (event_id, mark_id, field, old_value, new_value)
SELECT event0 + 6, mark0 + 1 + 2 * firm.units + firm.spare - 1, 'state', 'usable', 'held'
FROM firm
CROSS JOIN turn
WHERE built = firm.units AND k % 500 = 250;

UPDATE mark
SET state = 'held'
FROM firm
CROSS JOIN mark_change c
WHERE c.mark_id = mark.id AND c.event_id >= firm.first_event;

INSERT INTO label_job (printed_by, target, symbol, size, copies, labels, printed_at)
SELECT firm.receiver, 'pdf', 'datamatrix', '70x40', 1,
  jsonb_build_array(
    jsonb_build_object(
      'id', mark0, 'lot', NULL, 'gtin', NULL, 'kind', 'lot', 'name', 'large lot ' || g, 'facts',
      '[]'::jsonb, 'before', 0, 'number', 'LL-' || k, 'expires', NULL, 'product', 'LL-' || g,
      'supplierNumber', NULL
    )
  ),
  at
FROM firm
CROSS JOIN turn
WHERE has_lot AND k % 4 = 0;

INSERT INTO label_print (job_id, mark_id)
SELECT j.id, (j.labels -> 0 ->> 'id')::bigint
FROM firm
CROSS JOIN label_job j
WHERE (j.labels -> 0 ->> 'id')::bigint >= firm.first_mark;

INSERT INTO draft (person_id, sheet, body)
SELECT firm.receiver, 'receive:LPO-' || k, '{"rows": []}'
FROM firm
CROSS JOIN turn
WHERE is_open AND step < 2;

-- One case a month, decided; the last three not closed. Its suspect is a lot, its scope what left.
INSERT INTO recall_case (
  number, title, hazard, opened_by, key, opened_at, decided_at, decided_by, closed_at, closed_by,
  closing_reason
)
SELECT 'LRC-' || k, 'Lot LL-' || k || ' under limit', 'It may fail.', firm.coordinator,
  'large ' || k, begun, begun + interval '1 hour', firm.coordinator,
  CASE WHEN is_closed THEN begun + interval '20 days' END,
  CASE WHEN is_closed THEN firm.coordinator END,
  CASE WHEN is_closed THEN 'All answered.' END
FROM firm
CROSS JOIN turn
CROSS JOIN LATERAL (
  SELECT at + interval '10 days' AS begun, k < firm.orders * 0.9 AS is_closed
) AS dated
WHERE k % greatest(3, firm.orders / 36) = 2 AND NOT is_open;

INSERT INTO recall_suspect (case_id, mark_id, why)
SELECT c.id, turn.mark0, ''
FROM recall_case c
JOIN turn ON c.number = 'LRC-' || turn.k;

INSERT INTO recall_scope_customer (case_id, partner_id, mark_id, event_id, quantity)
SELECT c.id, used.customer, used.mark0 + 1 + firm.units + firm.spare + j, used.event0 + 4, 1
FROM firm
CROSS JOIN recall_case c
JOIN turn suspect ON c.number = 'LRC-' || suspect.k
JOIN turn used ON used.k BETWEEN suspect.k AND suspect.k + 2
CROSS JOIN LATERAL generate_series(0, used.shipped - 1) j;

INSERT INTO recall_scope_here (case_id, mark_id, place_id, quantity)
SELECT c.id, used.mark0 + 1 + firm.units + firm.spare + j, used.rack, 1
FROM firm
CROSS JOIN recall_case c
JOIN turn suspect ON c.number = 'LRC-' || suspect.k
JOIN turn used ON used.k BETWEEN suspect.k AND suspect.k + 2
CROSS JOIN LATERAL generate_series(used.shipped, used.built - 1) j;

INSERT INTO service_job (
  number, tracking, product_id, serial, customer_id, fault, opened_at, opened_by, key, state,
  ended_at, mark_id
)
SELECT 'LSJ-' || k,
  translate(upper(substr(md5(k::text), 1, 20)), 'ILOU', 'JKMN'), made, 'LM-' || k || '-0', customer,
  'Does not pull.', at + interval '5 days', firm.service, 'large ' || k,
  CASE WHEN k < firm.orders * 0.9 THEN 'ended' ELSE 'waiting for unit' END,
  CASE WHEN k < firm.orders * 0.9 THEN at + interval '15 days' END,
  mark0 + 1 + firm.units + firm.spare
FROM firm
CROSS JOIN turn
WHERE k % 20 = 3 AND shipped > 0;

INSERT INTO service_step (job_id, at, by, kind, note)
SELECT j.id, j.opened_at + interval '1 day', firm.service, 'finding', 'A spring is worn.'
FROM firm
CROSS JOIN service_job j
WHERE j.number ~ '^LSJ-' AND j.state = 'ended';

INSERT INTO stock_count (
  document, blind, opened_at, opened_by, approved_at, approved_by, reason
)
SELECT 'LCT-' || k, false, at, firm.receiver, at + interval '2 hours', firm.coordinator, 'As counted.'
FROM firm
CROSS JOIN turn
WHERE k % greatest(1, firm.orders / 300) = 0 AND NOT is_open;

INSERT INTO count_place (count_id, place_id, open, done_at, done_by)
SELECT c.id, turn.rack, false, c.approved_at, c.opened_by
FROM stock_count c
JOIN turn ON c.document = 'LCT-' || turn.k;
