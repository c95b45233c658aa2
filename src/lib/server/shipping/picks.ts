import { expiryOf, isFreePlace, stateOf } from '../kernel/db/what-counts.ts';
import { fellAway } from '../../core/shipping/fell-away.ts';
import type { PickRecord } from '../../core/shipping/pick-record.ts';
import { inWalkingOrder } from '../../core/shipping/pick-order.ts';
import type { MarkState } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

interface PickRow extends Omit<PickRecord, 'fell'> {
  state: MarkState;
  /** What of it lies at its place and is free, and where else any does. */
  here: string | null;
  elsewhere: { code: string; name: string } | null;
}

/**
 * The pick list of an order in walking order, as things are now: what was moved meanwhile says
 * where it lies, and what was held, has expired or is gone says so and is no stop any more.
 * @param day today, `YYYY-MM-DD`
 */
export async function readPicks(db: Db, orderId: number, day: string): Promise<PickRecord[]> {
  const rows = await db<PickRow[]>`
    SELECT k.id, k.line, p.code AS product, p.name, p.unit, p.net_weight_kg AS net, k.mark_id AS mark,
      coalesce(m.kind, 'serial') AS kind, m.number, l.number AS lot,
      ${expiryOf(db)} AS expires, c.code AS place,
      c.code AS listed,
      s.name || ', ' || c.name AS "placeName", k.quantity, k.picked, w.name AS who,
      ${stateOf(db)} AS state,
      (
        SELECT x.quantity
        FROM stock x
        WHERE x.mark_id = k.mark_id
          AND x.place_id = k.place_id
          AND x.quantity > 0
          AND ${isFreePlace(db, db`x.place_id`)}
      ) AS here,
      (
        SELECT json_build_object('code', y.code, 'name', z.name || ', ' || y.name)
        FROM stock x
          JOIN place y ON y.id = x.place_id AND y.kind NOT IN ('quarantine', 'transit')
          JOIN site z ON z.id = y.site_id
        WHERE x.mark_id = k.mark_id AND x.quantity > 0 AND y.id IS DISTINCT FROM k.place_id
        ORDER BY x.quantity DESC, y.code
        LIMIT 1
      ) AS elsewhere,
      coalesce(
        (
          SELECT sum(x.quantity)
          FROM unit_content x
            JOIN logistic_unit u ON u.id = x.unit_id
          WHERE x.mark_id = k.mark_id AND u.order_id = k.order_id AND NOT x.shipped
        ),
          0
      ) AS packed
    FROM pick k
      JOIN product p ON p.id = k.product_id
      LEFT JOIN mark m ON m.id = k.mark_id
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN place c ON c.id = k.place_id
      LEFT JOIN site s ON s.id = c.site_id
      LEFT JOIN person w ON w.id = k.picked_by
    WHERE k.order_id = ${orderId}
    ORDER BY k.id
  `;
  return inWalkingOrder(rows.map((row) => asItIs(row, day)));
}

function asItIs({ state, here, elsewhere, ...row }: PickRow, day: string): PickRecord {
  const moved = row.mark !== null && here === null && elsewhere !== null;
  return {
    ...row,
    ...(moved ? { place: elsewhere.code, placeName: elsewhere.name } : {}),
    quantity: trimZeros(row.quantity),
    picked: trimZeros(row.picked),
    packed: trimZeros(row.packed),
    fell:
      row.mark === null
        ? null
        : fellAway({ state, expires: row.expires, lies: here !== null || moved }, day)
  };
}

/** The same by the order's number. */
export async function readPicksOf(db: Db, order: string, day: string): Promise<PickRecord[]> {
  const [row] = await db<
    { id: number }[]
  >`SELECT id FROM trade_order WHERE kind = 'sales' AND number = ${order}`;
  return row ? readPicks(db, row.id, day) : [];
}
