import { MOST_BREAKS, type Break, type Proof } from './proof.ts';

/** Law 3: stock is the sum of movements, for every mark and place. */
export const stockIsItsMovements: Proof = (tx) => tx<Break[]>`
  SELECT 'law 3: stock is the sum of movements' AS law,
    coalesce(m.kind || ' ' || m.number, 'unmarked') || ' of ' || p.code || ' at ' || c.code AS what,
    coalesce(v.sum, 0)::text AS expected, coalesce(s.quantity, 0)::text AS found
  FROM (
    SELECT mark_id, place_id, sum(quantity) AS sum FROM movement GROUP BY mark_id, place_id
  ) v
    FULL JOIN stock s ON s.mark_id = v.mark_id AND s.place_id = v.place_id
    JOIN mark m ON m.id = coalesce(v.mark_id, s.mark_id)
    JOIN product p ON p.id = m.product_id
    JOIN place c ON c.id = coalesce(v.place_id, s.place_id)
  WHERE coalesce(v.sum, 0) <> coalesce(s.quantity, 0)
  LIMIT ${MOST_BREAKS}
`;

/** What stock repeats of its mark, so that it is found by it, is as the mark says. */
export const stockSaysItsMark: Proof = (tx) => tx<Break[]>`
  SELECT 'stock says what its mark says' AS law,
    coalesce(m.kind || ' ' || m.number, 'unmarked') || ' of ' || p.code AS what,
    p.code || ' ' || coalesce(m.expires_on::text, 'undated') AS expected,
    q.code || ' ' || coalesce(s.expires_on::text, 'undated') AS found
  FROM stock s
    JOIN mark m ON m.id = s.mark_id
    JOIN product p ON p.id = m.product_id
    JOIN product q ON q.id = s.product_id
  WHERE s.product_id <> m.product_id OR s.expires_on IS DISTINCT FROM m.expires_on
  LIMIT ${MOST_BREAKS}
`;

/** Laws 1 and 2 by movements alone: nothing below zero, of a serial one in one place or none. */
export const nothingImpossibleLies: Proof = (tx) => tx<Break[]>`
  SELECT 'laws 1 and 2: what lies there can' AS law,
    m.kind || ' ' || coalesce(m.number, '') || ' of ' || p.code AS what,
    CASE WHEN m.kind = 'serial' THEN '0 or 1 in one place' ELSE 'nothing below 0' END AS expected,
    string_agg(v.sum::text, ' and ') AS found
  FROM (
    SELECT mark_id, place_id, sum(quantity) AS sum
    FROM movement
    GROUP BY mark_id, place_id
    HAVING sum(quantity) <> 0
  ) v
    JOIN mark m ON m.id = v.mark_id
    JOIN product p ON p.id = m.product_id
  GROUP BY m.id, p.code
  HAVING min(v.sum) < 0 OR m.kind = 'serial' AND (count(*) > 1 OR max(v.sum) <> 1)
  LIMIT ${MOST_BREAKS}
`;

/** What is carried from place to place is neither more nor less for it. */
export const carryingKeepsAmounts: Proof = (tx) => tx<Break[]>`
  SELECT 'carrying keeps amounts' AS law,
    e.kind || ' ' || e.document || ', mark ' || v.mark_id AS what,
    '0' AS expected, sum(v.quantity)::text AS found
  FROM event e
    LEFT JOIN event u ON u.id = e.reverses_id
    JOIN movement v ON v.event_id = e.id
  WHERE coalesce(u.kind, e.kind) NOT IN (
      'receive', 'build', 'repack', 'teardown', 'identify', 'ship', 'return', 'gain', 'loss',
        'scrap', 'count', 'fit', 'remove', 'swap', 'opening', 'intake'
    )
  GROUP BY e.id, v.mark_id
  HAVING sum(v.quantity) <> 0
  LIMIT ${MOST_BREAKS}
`;

/** What an event of a kind may do to a mark: what is received does not leave by it. */
export const kindsMoveTheirWay: Proof = (tx) => tx<Break[]>`
  SELECT 'a kind moves its own way' AS law,
    e.kind || ' ' || e.document || ', mark ' || v.mark_id AS what,
    CASE WHEN e.kind IN ('receive', 'return', 'gain', 'opening', 'intake') THEN 'in' ELSE 'out' END AS expected,
    v.quantity::text AS found
  FROM event e
    JOIN movement v ON v.event_id = e.id
  WHERE e.kind IN ('receive', 'return', 'gain', 'opening', 'intake') AND v.quantity < 0
    OR e.kind IN ('ship', 'loss', 'scrap') AND v.quantity > 0
  LIMIT ${MOST_BREAKS}
`;

/**
 * For every product: received + made + gained − used − shipped + returned − lost − scrapped = on
 * hand. Made and used are what transformations and fittings say, the rest is summed from movements.
 */
export const productsBalance: Proof = (tx) => tx<Break[]>`
  WITH flows AS (
      SELECT v.mark_id, coalesce(u.kind, e.kind) AS kind, v.quantity
      FROM movement v
        JOIN event e ON e.id = v.event_id
        LEFT JOIN event u ON u.id = e.reverses_id
      WHERE coalesce(u.kind, e.kind) IN (
        'receive', 'opening', 'ship', 'return', 'gain', 'loss', 'scrap', 'count', 'intake'
      )
      UNION ALL
      SELECT o.mark_id, 'made', o.quantity
      FROM transformation_output o
        JOIN transformation t ON t.id = o.transformation_id AND NOT t.shared
      WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
      UNION ALL
      SELECT i.mark_id, 'used', -i.quantity
      FROM transformation_input i
      WHERE NOT EXISTS (
        SELECT FROM transformation_reversed x WHERE x.transformation_id = i.transformation_id
      )
      UNION ALL
      SELECT component_id, 'used', -quantity FROM fitting
      UNION ALL
      SELECT component_id, 'made', quantity FROM removal
      UNION ALL
      SELECT mark_id, 'on hand', -quantity FROM stock
    )
  SELECT 'every product balances' AS law,
    p.code || ': ' || string_agg(f.kind || ' ' || f.quantity, ', ' ORDER BY f.kind) AS what,
    (sum(f.quantity) - coalesce(sum(f.quantity) FILTER (WHERE f.kind = 'on hand'), 0))::text
      AS expected,
    coalesce(-sum(f.quantity) FILTER (WHERE f.kind = 'on hand'), 0)::text AS found
  FROM (
    SELECT m.product_id, f.kind, sum(f.quantity) AS quantity
    FROM flows f
      JOIN mark m ON m.id = f.mark_id
    GROUP BY 1, 2
  ) f
    JOIN product p ON p.id = f.product_id
  GROUP BY p.code
  HAVING sum(f.quantity) <> 0
  LIMIT ${MOST_BREAKS}
`;
