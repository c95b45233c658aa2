import { MOST_BREAKS, type Break, type Proof } from './proof.ts';

/** What is in a carton is what was packed into it. */
export const cartonsHoldWhatWasPacked: Proof = (tx) => tx<Break[]>`
  SELECT 'a carton holds what was packed' AS law,
    u.sscc || ', mark ' || coalesce(k.mark_id, c.mark_id) AS what,
    coalesce(k.quantity, 0)::text AS expected, coalesce(c.quantity, 0)::text AS found
  FROM (
    SELECT unit_id, mark_id, sum(quantity) AS quantity
    FROM packing
    WHERE mark_id IS NOT NULL
    GROUP BY 1, 2
  ) k
    FULL JOIN unit_content c USING (unit_id, mark_id)
    JOIN logistic_unit u ON u.id = unit_id
  WHERE coalesce(k.quantity, 0) <> coalesce(c.quantity, 0)
  LIMIT ${MOST_BREAKS}
`;

/** What is said to have left in cartons has left. */
export const cartonsLeftAsTold: Proof = (tx) => tx<Break[]>`
  SELECT 'a carton has left as told' AS law, u.sscc AS what,
    CASE WHEN o.unit_id IS NULL THEN 'here' ELSE 'left' END AS expected,
    CASE WHEN c.shipped THEN 'left' ELSE 'here' END AS found
  FROM unit_content c
    JOIN logistic_unit u ON u.id = c.unit_id
    LEFT JOIN unit_out o ON o.unit_id = c.unit_id
  WHERE c.shipped <> (o.unit_id IS NOT NULL)
  LIMIT ${MOST_BREAKS}
`;

/** No more came back of a shipment than left by it; of one that was taken back, nothing. */
export const noMoreBackThanLeft: Proof = (tx) => tx<Break[]>`
  SELECT 'no more comes back than left' AS law,
    'mark ' || r.mark_id || ' by event ' || r.shipment_id AS what,
    'at most ' || coalesce(s.shipped, 0) AS expected, r.quantity::text AS found
  FROM (
    SELECT mark_id, shipment_id, sum(quantity) AS quantity
    FROM returned
    WHERE NOT is_taken_back(event_id, mark_id)
    GROUP BY 1, 2
  ) r
    LEFT JOIN LATERAL (
      SELECT -sum(v.quantity) AS shipped
      FROM movement v
        JOIN event e ON e.id = v.event_id AND e.kind = 'ship'
      WHERE v.mark_id = r.mark_id
        AND v.event_id = r.shipment_id
        AND NOT is_taken_back(r.shipment_id, r.mark_id)
    ) s ON true
  WHERE r.quantity > coalesce(s.shipped, 0)
  LIMIT ${MOST_BREAKS}
`;

/** What a return says of its shipments is what it brought in. */
export const returnsNameTheirShipments: Proof = (tx) => tx<Break[]>`
  SELECT 'a return names its shipments' AS law,
    'mark ' || mark_id || ' by event ' || event_id AS what,
    coalesce(v.quantity, 0)::text AS expected, coalesce(r.quantity, 0)::text AS found
  FROM (
    SELECT v.event_id, v.mark_id, sum(v.quantity) AS quantity
    FROM event e
      JOIN movement v ON v.event_id = e.id
    WHERE e.kind = 'return'
    GROUP BY 1, 2
  ) v
    FULL JOIN (
      SELECT event_id, mark_id, sum(quantity) AS quantity FROM returned GROUP BY 1, 2
    ) r USING (event_id, mark_id)
  WHERE coalesce(v.quantity, 0) <> coalesce(r.quantity, 0)
  LIMIT ${MOST_BREAKS}
`;
