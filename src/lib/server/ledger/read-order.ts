import { markKey, type KnownOrder } from '../../core/ledger/snapshot.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import { billById } from '../catalogue/bills.ts';
import type { Tx } from '../kernel/db/client.ts';

/**
 * An order as a booking on it needs it.
 * @param lock the order's row is locked until the booking ends
 */
export async function readOrder(
  tx: Tx,
  kind: string,
  number: string,
  lock: boolean
): Promise<KnownOrder | null> {
  const [row] = await tx<
    {
      id: number;
      number: string;
      closed_at: Date | null;
      partner: string | null;
      bill_id: number | null;
      named: number;
    }[]
  >`
    SELECT o.id, o.number, o.closed_at, p.code AS partner, o.bill_id,
      (SELECT count(*)::int FROM planned_output n WHERE n.order_id = o.id) AS named
    FROM trade_order o
      LEFT JOIN partner p ON p.id = o.partner_id
    WHERE o.kind = ${kind}
      AND upper(o.number) = ${numberKey(number)} ${lock ? tx`FOR NO KEY UPDATE OF o` : tx``}
  `;
  if (!row) return null;
  return {
    id: row.id,
    number: row.number,
    closed: row.closed_at !== null,
    partner: row.partner,
    named: row.named,
    lines: await readLines(tx, row.id),
    announced: kind === 'purchase' ? await readAnnounced(tx, row.id) : new Set(),
    bill: row.bill_id === null ? null : await readBill(tx, row.bill_id)
  };
}

async function readLines(tx: Tx, order: number): Promise<KnownOrder['lines']> {
  const lines = await tx<
    { product_id: number; ordered: string; most: string; done: string; price: string | null }[]
  >`
    SELECT l.product_id, sum(l.quantity) AS ordered,
      CASE WHEN bool_and(l.unit_price IS NOT NULL) THEN
        sum(l.quantity * l.unit_price) / sum(l.quantity) END AS price,
      sum(l.quantity * (1 + coalesce(l.over_percent, p.over_receipt_percent) / 100)) AS most,
      coalesce(
        (
          SELECT d.done
          FROM order_booked d
          WHERE d.order_id = ${order} AND d.product_id = l.product_id
        ),
          0
      ) AS done
    FROM order_line l
      JOIN product p ON p.id = l.product_id
    WHERE l.order_id = ${order}
    GROUP BY l.product_id
  `;
  return new Map(
    lines.map((line) => [
      line.product_id,
      {
        ordered: quantity(line.ordered),
        most: quantity(line.most),
        done: quantity(line.done),
        price: line.price === null ? null : quantity(line.price)
      }
    ])
  );
}

/** The numbers a supplier announced for it. */
async function readAnnounced(tx: Tx, order: number): Promise<Set<string>> {
  const rows = await tx<{ product_id: number; lot: string | null; serial: string | null }[]>`
    SELECT l.product_id, a.lot, a.serial
    FROM announced_number a
      JOIN order_line l USING (order_id, line)
    WHERE a.order_id = ${order}
  `;
  return new Set(
    rows.flatMap((one) => [
      ...(one.serial === null ? [] : [markKey(one.product_id, 'serial', one.serial)]),
      ...(one.lot === null ? [] : [markKey(one.product_id, 'lot', one.lot)])
    ])
  );
}

/** The bill it is built by, with the latest there is and the ids of all it names. */
async function readBill(tx: Tx, id: number): Promise<KnownOrder['bill']> {
  const bill = await billById(tx, id);
  const [more] = await tx<{ latest: number; ids: Record<string, number> }[]>`
    SELECT (SELECT max(version) FROM bill WHERE product_id = b.product_id) AS latest,
      (
        SELECT jsonb_object_agg(upper(p.code), p.id)
        FROM product p
        WHERE p.id = b.product_id
          OR p.id IN (
            SELECT component_id
            FROM bill_part
            WHERE bill_id = b.id
            UNION
            SELECT unnest(alternates)
            FROM bill_part
            WHERE bill_id = b.id
            UNION
            SELECT product_id
            FROM bill_co_product
            WHERE bill_id = b.id
          )
      ) AS ids
    FROM bill b
    WHERE b.id = ${id}
  `;
  return bill && { bill, latest: more!.latest, ids: new Map(Object.entries(more!.ids)) };
}
