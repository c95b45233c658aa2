import { groupBy } from '../../core/group-by.ts';
import type { LaterMovement } from '../../core/ledger/snapshot.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';

/**
 * What moved after an instant of the marks of which anything did: none, for whoever books what
 * happens now.
 */
export async function readLaterMovements(
  tx: Tx,
  stock: readonly { mark_id: number; latest: Date | null }[],
  happenedAt: Date
): Promise<Map<number, LaterMovement[]>> {
  const after = stock
    .filter((row) => row.latest !== null && row.latest > happenedAt)
    .map((row) => row.mark_id);
  const marks = [...new Set(after)];
  if (marks.length === 0) return new Map();
  const rows = await tx<
    (Omit<LaterMovement, 'quantity' | 'at'> & {
      mark: number;
      at: string;
      quantity: string;
    })[]
  >`
    SELECT v.mark_id AS mark, e.id AS event, e.kind, e.document, e.happened_at::date AS day,
      (extract(epoch FROM e.happened_at) * 1000000)::bigint::text AS at,
      sum(v.quantity) AS quantity
    FROM movement v
      JOIN event e ON e.id = v.event_id
    WHERE v.mark_id = ANY(${marks}) AND e.happened_at > ${happenedAt}
    GROUP BY v.mark_id, e.id
    HAVING sum(v.quantity) <> 0
    ORDER BY e.happened_at, e.id
  `;
  return new Map(
    [...groupBy(rows, (row) => row.mark)].map(([mark, of]) => [
      mark,
      of.map(({ mark: _, at, quantity: amount, ...event }) => ({
        ...event,
        at: Number(at),
        quantity: quantity(amount)
      }))
    ])
  );
}
