import { numberKey } from '../../core/numbers/number.ts';
import type { Language } from '../../core/papers/language.ts';
import { formatQuantity, quantity } from '../../core/quantity/quantity.ts';
import { company } from '../catalogue/company.ts';
import { readPartner, type PartnerRecord } from '../catalogue/partners-places.ts';
import type { Db } from '../kernel/db/client.ts';
import { readFirstZone } from '../kernel/db/zones.ts';
import { readOrder } from '../orders/read-orders.ts';

/** A line of a purchase order beside what came of it; quantities in its product's unit. */
export interface ConfirmedLine {
  line: number;
  product: string;
  name: string;
  unit: string;
  ordered: string;
  received: string;
  toCome: string;
  /** How much more came than was ordered; null where none did. */
  over: string | null;
}

/** What one receipt brought of a product, lot by lot. */
export interface ConfirmedReceipt {
  event: number;
  paper: string;
  /** The supplier's delivery note. */
  reference: string | null;
  at: Date;
  product: string;
  unit: string;
  lot: string | null;
  quantity: string;
}

/** What a supplier is told of their deliveries on one order. */
export interface Confirmation {
  number: string;
  language: Language;
  partner: PartnerRecord;
  from: string;
  address: string;
  due: string;
  now: Date;
  zone: string;
  lines: ConfirmedLine[];
  /** Those not taken back, the first to come first. */
  receipts: ConfirmedReceipt[];
}

/**
 * What came of a purchase order beside what was ordered.
 * @param asked the language it is asked in; the supplier's where none is
 * @returns null where there is no such order, or it names no supplier
 */
export async function readConfirmation(
  db: Db,
  number: string,
  asked?: Language
): Promise<Confirmation | null> {
  const order = await readOrder(db, 'purchase', number);
  const partner = order?.partner ? await readPartner(db, order.partner) : null;
  if (!order || !partner) return null;
  const [own, receipts, zone] = await Promise.all([
    company(db),
    readReceipts(db, number),
    readFirstZone(db)
  ]);
  return {
    ...{ number: order.number, due: order.due, partner, receipts },
    ...{ language: asked ?? partner.language, from: own.name, address: own.address },
    ...{ now: new Date(), zone },
    lines: order.lines.map(({ line, product, name, unit, quantity: ordered, done, left }) => ({
      ...{ line, product, name, unit, ordered, received: done, toCome: left },
      over: moreThan(done, ordered)
    }))
  };
}

function moreThan(received: string, ordered: string): string | null {
  const over = quantity(received).minus(ordered);
  return over.gt(0) ? formatQuantity(over) : null;
}

/** Numbers stand as they were on the day; a receipt that was taken back brought nothing. */
const readReceipts = (db: Db, number: string): Promise<ConfirmedReceipt[]> =>
  db<ConfirmedReceipt[]>`
    SELECT e.id AS event, paper_number(e.id) AS paper, e.reference, e.happened_at AS at,
      p.code AS product, p.unit, coalesce(l.number, CASE WHEN m.kind = 'lot' THEN m.number END) AS lot,
      trim_scale(sum(v.quantity))::text AS quantity
    FROM trade_order o
      JOIN event e ON e.order_id = o.id AND e.kind = 'receive'
      JOIN movement v ON v.event_id = e.id
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE o.kind = 'purchase' AND upper(o.number) = ${numberKey(number)}
      AND NOT EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id)
    GROUP BY e.id, p.code, p.unit, 7
    ORDER BY e.happened_at, e.id, p.code, 7
  `;
