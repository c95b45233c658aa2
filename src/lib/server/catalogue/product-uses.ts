import type { Db } from '../kernel/db/client.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/** An order that waits and names a product. */
export interface OrderNaming {
  kind: 'purchase' | 'work' | 'sales';
  number: string;
  partner: string | null;
  due: string;
  ordered: string;
}

/** What depends on a product as it is set up. */
export interface ProductUses {
  /** What is on hand of it, and of how many lots or serials. */
  onHand: { quantity: string; marks: number };
  /** Every lot and serial of it there ever was. */
  marks: number;
  /** Orders that wait, those due first. */
  orders: Listed<OrderNaming>;
  /** Those whose bill in force, or a former one, takes it. */
  bills: number;
  /** Version of its limits; null where none are set. */
  spec: number | null;
  /** Customers with limits of their own for it. */
  ownSpecs: number;
  /** Code of the route its units go; null for none. */
  route: string | null;
}

/** Most orders that are named. */
const MOST_ORDERS = 8;

/** What depends on a product; of one that is there. */
export async function readProductUses(db: Db, code: string): Promise<ProductUses> {
  const id: ReturnType<Db> = db`(SELECT id FROM product WHERE upper(code) = ${numberKey(code)})`;
  const [orders, [figures]] = await Promise.all([
    readOrders(db, id),
    db<(Omit<ProductUses, 'orders' | 'onHand'> & { quantity: string; lie: number })[]>`
      SELECT coalesce(s.quantity, 0) AS quantity, coalesce(s.lie, 0)::int AS lie,
        (SELECT count(*)::int FROM mark WHERE product_id = ${id}) AS marks,
        (
          SELECT count(DISTINCT b.product_id)::int
          FROM bill_part l
            JOIN bill b ON b.id = l.bill_id
          WHERE l.component_id = ${id}
        ) AS bills,
        (
          SELECT max(version) FROM spec WHERE product_id = ${id} AND partner_id IS NULL
        ) AS spec,
        (
          SELECT count(DISTINCT partner_id)::int FROM spec WHERE product_id = ${id}
        ) AS "ownSpecs",
        (
          SELECT r.code::text
          FROM product p
            JOIN route r ON r.id = p.route_id
          WHERE p.id = ${id}
        ) AS route
      FROM (
        SELECT sum(quantity) AS quantity, count(DISTINCT mark_id) AS lie
        FROM stock
        WHERE product_id = ${id} AND quantity > 0
      ) s
    `
  ]);
  const { quantity, lie, ...others } = figures!;
  return { ...others, onHand: { quantity: trimZeros(quantity), marks: lie }, orders };
}

async function readOrders(db: Db, product: ReturnType<Db>): Promise<Listed<OrderNaming>> {
  const rows = await db<(OrderNaming & { total: number })[]>`
    SELECT o.kind, o.number, t.name AS partner, o.due_on AS due, sum(l.quantity) AS ordered,
      count(*) OVER ()::int AS total
    FROM order_line l
      JOIN waiting_order w ON w.order_id = l.order_id
      JOIN trade_order o ON o.id = l.order_id
      LEFT JOIN partner t ON t.id = o.partner_id
    WHERE l.product_id = ${product}
    GROUP BY o.id, t.name
    ORDER BY o.due_on, o.number
    LIMIT ${MOST_ORDERS}
  `;
  return mapListed(listed(rows), (row) => ({ ...row, ordered: trimZeros(row.ordered) }));
}

/**
 * How much of a product the work orders that wait are still to make; null where none of it is to be
 * made.
 */
export async function stillToMake(db: Db, code: string): Promise<string | null> {
  const [row] = await db<{ open: string | null }[]>`
    SELECT sum(open) AS open
    FROM (
      SELECT sum(l.quantity) - coalesce(max(b.done), 0) AS open
      FROM order_line l
        JOIN waiting_order w ON w.order_id = l.order_id
        JOIN trade_order o ON o.id = l.order_id AND o.kind = 'work'
        JOIN product p ON p.id = l.product_id
        LEFT JOIN order_booked b ON b.order_id = l.order_id AND b.product_id = l.product_id
      WHERE upper(p.code) = ${numberKey(code)}
      GROUP BY l.order_id
    ) each_order
    WHERE open > 0
  `;
  return row?.open ? trimZeros(row.open) : null;
}
