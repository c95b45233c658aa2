import type { Rows } from '../../core/ledger/booking.ts';
import type { Tx } from '../kernel/db/client.ts';

/** What leaves on an order is no longer promised to it, nor to be fetched. */
export async function keepPromises(tx: Tx, eventId: number, { orderId }: Rows): Promise<void> {
  if (orderId === null) return;
  await tx`
    WITH gone AS (
      SELECT e.order_id, v.mark_id, -sum(v.quantity) AS quantity
      FROM event e
        JOIN movement v ON v.event_id = e.id
      WHERE e.id = ${eventId} AND e.order_id IS NOT NULL
      GROUP BY e.order_id, v.mark_id
    ),
      fetched AS (
        DELETE FROM pick k
        USING gone g
        WHERE k.order_id = g.order_id
          AND k.mark_id = g.mark_id
          AND (k.picked > 0 OR k.quantity <= g.quantity)
      ),
      kept AS (
        DELETE FROM reservation r
        USING gone g
        WHERE r.order_id = g.order_id AND r.mark_id = g.mark_id AND r.quantity <= g.quantity
      )
    UPDATE reservation r
    SET quantity = r.quantity - g.quantity
    FROM gone g
    WHERE r.order_id = g.order_id AND r.mark_id = g.mark_id AND r.quantity > g.quantity
  `;
}
