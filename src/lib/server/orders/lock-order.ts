import { numberKey } from '../../core/numbers/number.ts';
import type { Tx } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import type { OrderKind } from './schemas.ts';

/** An order that is locked: others who change what belongs to it wait. */
export interface LockedOrder {
  id: number;
  number: string;
}

/** Locks an order, open or closed. @throws Problem 404 */
export async function lockOrder(
  tx: Tx,
  kind: OrderKind,
  number: string
): Promise<LockedOrder & { closed: boolean }> {
  const [order] = await tx<(LockedOrder & { closed: boolean })[]>`
    SELECT id, number, closed_at IS NOT NULL AS closed
    FROM trade_order
    WHERE kind = ${kind} AND upper(number) = ${numberKey(number)}
    FOR UPDATE
  `;
  return order ?? notFound('order', number);
}

/**
 * Locks an order that must be open.
 * @param before what the person wants to do, as after “before”: `numbers are announced for it`
 * @throws Problem 404, 409 where it is closed
 */
export async function lockOpenOrder(
  tx: Tx,
  kind: OrderKind,
  number: string,
  before: string
): Promise<LockedOrder> {
  const order = await lockOrder(tx, kind, number);
  if (order.closed)
    throw new Problem(409, 'The order is closed', [
      {
        code: 'order.closed',
        path: 'number',
        number: order.number,
        message: `Order ${order.number} is closed. Open it again before ${before}.`
      }
    ]);
  return order;
}
