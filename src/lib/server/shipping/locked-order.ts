import { numberKey } from '../../core/numbers/number.ts';
import type { Tx } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';

/** A sales order that is being picked for; others who do wait for it. */
export interface LockedOrder {
  id: number;
  number: string;
  closed: boolean;
}

/** @throws Problem 404, 409 where it is closed */
export async function lockSalesOrder(tx: Tx, number: string): Promise<LockedOrder> {
  const [order] = await tx<LockedOrder[]>`
    SELECT id, number, closed_at IS NOT NULL AS closed
    FROM trade_order
    WHERE kind = 'sales' AND upper(number) = ${numberKey(number)}
    FOR UPDATE
  `;
  if (!order) notFound('order', number);
  if (order.closed)
    throw new Problem(409, 'The order is closed', [
      {
        code: 'order.closed',
        path: 'number',
        number: order.number,
        message: `Order ${order.number} is closed. Open it again before something is picked for it.`
      }
    ]);
  return order;
}
