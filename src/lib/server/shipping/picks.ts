import { expiryOf } from '../kernel/db/what-counts.ts';
import { inWalkingOrder } from '../../core/shipping/pick-order.ts';
import { sayDay } from '../../core/calendar/say-day.ts';
import type { MarkKind, MarkState } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/** A stop of a pick list; without a mark any serial of the product will do. */
export interface PickRecord {
  id: number;
  line: number;
  product: string;
  name: string;
  unit: string;
  mark: number | null;
  kind: MarkKind;
  number: string | null;
  lot: string | null;
  expires: string | null;
  place: string | null;
  placeName: string | null;
  quantity: string;
  picked: string;
  packed: string;
  who: string | null;
}

/** A lot or serial in hand, with where it lies. */
export interface Pickable {
  id: number;
  productId: number;
  kind: MarkKind;
  number: string;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  expires: string | null;
  places: { id: number; code: string; quantity: string }[] | null;
}

/** The pick list of an order in walking order. */
export async function readPicks(db: Db, orderId: number): Promise<PickRecord[]> {
  const rows = await db<PickRecord[]>`
    SELECT k.id, k.line, p.code AS product, p.name, p.unit, k.mark_id AS mark,
      coalesce(m.kind, 'serial') AS kind, m.number, l.number AS lot,
      ${expiryOf(db)} AS expires, c.code AS place,
      s.name || ', ' || c.name AS "placeName", k.quantity, k.picked, w.name AS who,
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
  return inWalkingOrder(
    rows.map((row) => ({
      ...row,
      quantity: trimZeros(row.quantity),
      picked: trimZeros(row.picked),
      packed: trimZeros(row.packed)
    }))
  );
}

/** The same by the order's number. */
export async function readPicksOf(db: Db, order: string): Promise<PickRecord[]> {
  const [row] = await db<
    { id: number }[]
  >`SELECT id FROM trade_order WHERE kind = 'sales' AND number = ${order}`;
  return row ? readPicks(db, row.id) : [];
}

/** Held, rejected and expired goods are not fetched at all. */
export function checkUsableNow(
  mark: Pickable,
  day: string,
  refuse: (code: string, message: string, number?: string) => never
): void {
  if (mark.state !== 'usable')
    refuse(
      mark.state === 'held' ? 'mark.held' : 'mark.rejected',
      `${mark.number} of ${mark.product} is ${mark.state === 'held' ? 'held by quality' : 'rejected'}. Leave it there and fetch another.`,
      mark.number
    );
  if (mark.expires !== null && mark.expires < day)
    refuse(
      'mark.expired',
      `${mark.number} of ${mark.product} expired on ${sayDay(mark.expires)}. Leave it there and fetch another.`,
      mark.number
    );
}
