import { groupBy } from '../../core/group-by.ts';
import { quantity, total } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';

/** The lines an order has now: product ids, the first line first. */
type Products = readonly number[];

/**
 * An order that is entered again may have other products under the same line numbers. What was
 * named, promised, announced or is to be picked belongs to a product: it follows that product to
 * the line that has it now, and is dropped where none has. Called while the old lines still stand.
 */
export async function followProducts(tx: Tx, orderId: number, products: Products): Promise<void> {
  await tx`
    DELETE FROM planned_output
    WHERE order_id = ${orderId} AND NOT product_id = ANY(${products as number[]})
  `;
  await followPromises(tx, orderId, products);
  await followAnnounced(tx, orderId, products);
  await followPicks(tx, orderId, products);
}

/** The line that has a product now: the same as before where it may stay; null where none has. */
export function lineNow(products: Products, product: number, before: number): number | null {
  if (products[before - 1] === product) return before;
  const at = products.indexOf(product);
  return at < 0 ? null : at + 1;
}

interface Promised {
  line: number;
  product: number;
  mark_id: number;
  quantity: string;
  promised_by: number;
  promised_at: Date;
  until: string | null;
  reason: string | null;
}

async function followPromises(tx: Tx, orderId: number, products: Products): Promise<void> {
  const before = await tx<Promised[]>`
    SELECT r.line, m.product_id AS product, r.mark_id, r.quantity, r.promised_by, r.promised_at,
      r.until, r.reason
    FROM reservation r
      JOIN mark m ON m.id = r.mark_id
    WHERE r.order_id = ${orderId}
    ORDER BY r.id
  `;
  if (before.every((row) => lineNow(products, row.product, row.line) === row.line)) return;
  const moved = before.flatMap((row) => {
    const line = lineNow(products, row.product, row.line);
    return line === null ? [] : { ...row, line };
  });
  // Two lines of a product that are one now may both have had of the same lot.
  const rows = [...groupBy(moved, (row) => `${row.line} ${row.mark_id}`).values()].map((same) => {
    const { product: _, ...first } = same[0]!;
    const sum = total(same.map((row) => quantity(row.quantity))).toFixed();
    return { ...first, order_id: orderId, quantity: sum };
  });
  await tx`DELETE FROM reservation WHERE order_id = ${orderId}`;
  if (rows.length > 0) await tx`INSERT INTO reservation ${tx(rows)}`;
}

async function followAnnounced(tx: Tx, orderId: number, products: Products): Promise<void> {
  const before = await tx<Placed[]>`
    SELECT a.id, a.line, l.product_id AS product
    FROM announced_number a
      JOIN order_line l USING (order_id, line)
    WHERE a.order_id = ${orderId}
  `;
  await moveLines(tx, 'announced_number', before, products);
}

async function followPicks(tx: Tx, orderId: number, products: Products): Promise<void> {
  const before = await tx<Placed[]>`
    SELECT id, line, product_id AS product
    FROM pick
    WHERE order_id = ${orderId}
  `;
  await moveLines(tx, 'pick', before, products);
}

/** A row that stands on a line of the order and belongs to a product. */
interface Placed {
  id: number;
  line: number;
  product: number;
}

async function moveLines(
  tx: Tx,
  table: 'announced_number' | 'pick',
  before: readonly Placed[],
  products: Products
): Promise<void> {
  const now = before.map(({ id, line, product }) => ({
    id,
    line: lineNow(products, product, line)
  }));
  const gone = now.filter((row) => row.line === null).map((row) => row.id);
  const kept = now.filter((row) => row.line !== null);
  await tx`DELETE FROM ${tx(table)} WHERE id = ANY(${gone})`;
  await tx`
    UPDATE ${tx(table)} t
    SET line = n.line
    FROM unnest(${kept.map((row) => row.id)}::bigint[], ${kept.map((row) => row.line)}::int[])
      AS n (id, line)
    WHERE t.id = n.id AND t.line <> n.line
  `;
}
