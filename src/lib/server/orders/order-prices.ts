import type { z } from 'zod';
import { parseQuantity, quantity } from '../../core/quantity/quantity.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db, Tx } from '../kernel/db/client.ts';
import type { Order } from './schemas.ts';

/** A line as it is kept: how much of the product’s own unit its quantity is. */
interface KeptLine {
  productId: number;
  quantity: string;
}

/**
 * The price of one of each line’s product, in the product’s own unit. Whoever does not see costs
 * leaves prices out: they stay what they were.
 * @param order its id, before its lines are kept anew
 */
export async function orderPrices(
  tx: Tx,
  order: number,
  given: z.infer<typeof Order>,
  lines: readonly KeptLine[]
): Promise<(string | null)[]> {
  const before = await tx<{ product: number; price: string | null }[]>`
    SELECT product_id AS product, unit_price AS price
    FROM order_line
    WHERE order_id = ${order}
    ORDER BY line
  `;
  return lines.map(({ productId, quantity: own }, index) => {
    const { unitPrice, quantity: typed } = given.lines[index]!;
    if (unitPrice === undefined)
      return before.find((one) => one.product === productId)?.price ?? null;
    const price = unitPrice === null ? null : parseQuantity(unitPrice);
    // Of a case of twelve, one is a twelfth of its price.
    return price?.times(typed).div(quantity(own)).toDecimalPlaces(12).toFixed() ?? null;
  });
}

/** What one of each line’s product costs by a purchase order, by line, where it says so. */
export async function readOrderPrices(db: Db, number: string): Promise<Record<string, string>> {
  const rows = await db<{ line: number; price: string }[]>`
    SELECT l.line, trim_scale(round(l.unit_price, 6))::text AS price
    FROM order_line l
      JOIN trade_order o ON o.id = l.order_id
    WHERE o.kind = 'purchase'
      AND upper(o.number) = ${numberKey(number)}
      AND l.unit_price IS NOT NULL
  `;
  return Object.fromEntries(rows.map((row) => [String(row.line), row.price]));
}
