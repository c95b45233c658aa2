import { MOST_BREAKS, type Break, type Proof } from './proof.ts';

/** What is kept of orders as bookings come is what their movements come to. */
export const ordersAreAsBooked: Proof = (tx) => tx<Break[]>`
  SELECT 'orders are as booked' AS law, o.kind || ' order ' || o.number || ', ' || p.code AS what,
    coalesce(d.done, 0)::text AS expected, coalesce(b.done, 0)::text AS found
  FROM order_booked b
    FULL JOIN (
      SELECT order_id, product_id, done FROM order_done
    ) d ON d.order_id = b.order_id AND d.product_id = b.product_id
    JOIN trade_order o ON o.id = coalesce(b.order_id, d.order_id)
    JOIN product p ON p.id = coalesce(b.product_id, d.product_id)
  WHERE coalesce(d.done, 0) <> coalesce(b.done, 0)
  LIMIT ${MOST_BREAKS}
`;

/** The list of orders that wait has those that are open and lack something, and no other. */
export const ordersWaitWhileTheyLack: Proof = (tx) => tx<Break[]>`
  SELECT 'orders wait while they lack something' AS law, o.kind || ' order ' || o.number AS what,
    CASE WHEN lacks THEN 'waits' ELSE 'is done' END AS expected,
    CASE WHEN lacks THEN 'is done' ELSE 'waits' END AS found
  FROM trade_order o
    LEFT JOIN waiting_order w ON w.order_id = o.id
    CROSS JOIN LATERAL (
      SELECT o.closed_at IS NULL AND EXISTS (
        SELECT
        FROM order_line l
          LEFT JOIN order_booked b ON b.order_id = l.order_id AND b.product_id = l.product_id
        WHERE l.order_id = o.id
        GROUP BY l.product_id
        HAVING sum(l.quantity) > coalesce(max(b.done), 0)
      ) AS lacks
    ) c
  WHERE lacks <> (w.order_id IS NOT NULL)
  LIMIT ${MOST_BREAKS}
`;
