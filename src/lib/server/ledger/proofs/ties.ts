import { MOST_BREAKS, type Break, type Proof } from './proof.ts';

/**
 * What builds and the like moved is what their transformations and fittings say. A booking and what
 * took it back are one: together they moved what still holds. What units share makes none of them.
 */
export const tiesAreTheirMovements: Proof = (tx) => tx<Break[]>`
  WITH live AS (
    SELECT t.id, coalesce(e.reverses_id, e.id) AS event_id, t.shared
    FROM transformation t
      JOIN event e ON e.id = t.event_id
    WHERE NOT EXISTS (SELECT FROM transformation_reversed x WHERE x.transformation_id = t.id)
  ),
    both_sides AS (
      SELECT coalesce(u.id, e.id) AS event_id, v.mark_id, v.quantity AS moved, 0 AS said
      FROM movement v
        JOIN event e ON e.id = v.event_id
        LEFT JOIN event u ON u.id = e.reverses_id
      WHERE coalesce(u.kind, e.kind) IN (
        'build', 'repack', 'teardown', 'identify', 'fit', 'remove', 'swap'
      )
      UNION ALL
      SELECT l.event_id, i.mark_id, 0, -i.quantity
      FROM live l
        JOIN transformation_input i ON i.transformation_id = l.id
      UNION ALL
      SELECT l.event_id, o.mark_id, 0, o.quantity
      FROM live l
        JOIN transformation_output o ON o.transformation_id = l.id
      WHERE NOT l.shared
      UNION ALL
      SELECT coalesce(e.reverses_id, e.id), f.component_id, 0, -f.quantity
      FROM fitting f
        JOIN event e ON e.id = f.from_event
      UNION ALL
      SELECT coalesce(e.reverses_id, e.id), r.component_id, 0, r.quantity
      FROM removal r
        JOIN event e ON e.id = r.event_id
    )
  SELECT 'what is tied is what moved' AS law,
    e.kind || ' ' || e.document || ', mark ' || x.mark_id AS what,
    x.moved::text AS expected, x.said::text AS found
  FROM (
    SELECT event_id, mark_id, sum(moved) AS moved, sum(said) AS said
    FROM both_sides
    GROUP BY event_id, mark_id
    HAVING sum(moved) <> sum(said)
  ) x
    JOIN event e ON e.id = x.event_id
  LIMIT ${MOST_BREAKS}
`;

/** A tie has something that comes out, and nothing comes out of one that only units share. */
export const tiesHaveOutputs: Proof = (tx) => tx<Break[]>`
  SELECT 'a tie has an output' AS law, e.kind || ' ' || e.document || ', tie ' || t.id AS what,
    'at least 1' AS expected, '0' AS found
  FROM transformation t
    JOIN event e ON e.id = t.event_id
  WHERE NOT EXISTS (SELECT FROM transformation_output o WHERE o.transformation_id = t.id)
  LIMIT ${MOST_BREAKS}
`;

/** A repack keeps the net weight. */
export const repacksKeepWeight: Proof = (tx) => tx<Break[]>`
  SELECT 'law 8: a repack keeps its weight' AS law, e.document || ', tie ' || t.id AS what,
    i.weight::text AS expected, o.weight::text AS found
  FROM event e
    JOIN transformation t ON t.event_id = e.id
    CROSS JOIN LATERAL (
      SELECT sum(x.quantity * p.net_weight_kg) AS weight
      FROM transformation_input x
        JOIN mark m ON m.id = x.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE x.transformation_id = t.id
    ) i
    CROSS JOIN LATERAL (
      SELECT sum(x.quantity * p.net_weight_kg) AS weight
      FROM transformation_output x
        JOIN mark m ON m.id = x.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE x.transformation_id = t.id
    ) o
  WHERE e.kind = 'repack' AND i.weight <> o.weight
  LIMIT ${MOST_BREAKS}
`;

/** A reversal takes back, mark by mark, what its event did: once, and nothing else. */
export const reversalsMirror: Proof = (tx) => tx<Break[]>`
  SELECT 'a reversal mirrors its event' AS law,
    u.kind || ' ' || u.document || ', mark ' || b.mark_id AS what,
    (-coalesce(d.quantity, 0))::text AS expected, b.quantity::text AS found
  FROM (
    SELECT e.reverses_id, v.mark_id, sum(v.quantity) AS quantity
    FROM event e
      JOIN movement v ON v.event_id = e.id
    WHERE e.reverses_id IS NOT NULL
    GROUP BY 1, 2
  ) b
    JOIN event u ON u.id = b.reverses_id
    LEFT JOIN LATERAL (
      SELECT sum(v.quantity) AS quantity
      FROM movement v
      WHERE v.event_id = u.id AND v.mark_id = b.mark_id
    ) d ON true
  WHERE u.kind NOT IN ('build', 'repack', 'teardown', 'identify')
    AND b.quantity <> -coalesce(d.quantity, 0)
  LIMIT ${MOST_BREAKS}
`;

/** A tie is taken back by a reversal of the event that made it, or made it anew. */
export const tiesAreTakenBackByTheirs: Proof = (tx) => tx<Break[]>`
  SELECT 'a tie is taken back by a reversal of its event' AS law, 'tie ' || t.id AS what,
    'a reversal of event ' || coalesce(m.reverses_id, m.id) AS expected,
    e.kind || ' ' || e.id AS found
  FROM transformation_reversed x
    JOIN transformation t ON t.id = x.transformation_id
    JOIN event m ON m.id = t.event_id
    JOIN event e ON e.id = x.event_id
  WHERE e.reverses_id IS DISTINCT FROM coalesce(m.reverses_id, m.id)
  LIMIT ${MOST_BREAKS}
`;
