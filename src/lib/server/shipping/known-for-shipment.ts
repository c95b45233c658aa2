import { shipmentWants } from '../../core/shipping/ship.ts';
import type { NamedMarks } from '../../core/ledger/request.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { expiryOf } from '../kernel/db/what-counts.ts';
import type { Sql } from '../kernel/db/client.ts';
import { asNamed, type OnHandNamed } from '../ledger/named-on-hand.ts';
import { readKnown } from '../ledger/read-known.ts';
import { readOrder } from '../orders/read-orders.ts';

/** Lots and serials that a device keeps of an order; others are looked for with the line. */
const MOST_KNOWN = 5_000;

/**
 * What the decisions of shipping, picking and packing for an order know, for a device that goes on
 * without a line: all of its products on hand, what is promised to it first, then what expires
 * first.
 * @returns null where there is no such sales order
 */
export async function knownForShipment(sql: Sql, number: string): Promise<Snapshot | null> {
  const order = await readOrder(sql, 'sales', number);
  if (!order) return null;
  const products = order.lines.map((line) => line.product);
  const marks = await namedOnHand(sql, order.number, products);
  const units = await cartonsOf(sql, order.number);
  const shipment = { document: order.number, customer: order.partner ?? '', lines: [], units };
  return readKnown(sql, { ...shipmentWants(shipment), products, marks });
}

async function namedOnHand(
  sql: Sql,
  order: string,
  products: readonly string[]
): Promise<NamedMarks[]> {
  const rows = await sql<OnHandNamed[]>`
    SELECT p.code AS product, m.kind, m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE p.code = ANY(${products})
      AND EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0)
    ORDER BY EXISTS (
        SELECT
        FROM reservation r
          JOIN trade_order o ON o.id = r.order_id
        WHERE r.mark_id = m.id AND o.kind = 'sales' AND o.number = ${order}
      ) DESC,
      ${expiryOf(sql)} NULLS LAST, m.id
    LIMIT ${MOST_KNOWN}
  `;
  return asNamed(rows);
}

async function cartonsOf(sql: Sql, order: string): Promise<string[]> {
  const rows = await sql<{ sscc: string }[]>`
    SELECT u.sscc
    FROM logistic_unit u
      JOIN trade_order o ON o.id = u.order_id
    WHERE o.kind = 'sales' AND o.number = ${order}
      AND NOT EXISTS (SELECT FROM unit_out x WHERE x.unit_id = u.id)
  `;
  return rows.map(({ sscc }) => sscc);
}
