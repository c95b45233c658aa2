import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { readPartner, type PartnerRecord } from '../catalogue/partners-places.ts';

/** What a customer has of a lot or serial by one shipment. */
export interface HasRow {
  mark: number;
  kind: MarkKind;
  number: string | null;
  lot: string | null;
  product: string;
  name: string;
  unit: string;
  quantity: string;
  event: number;
  document: string;
  day: string;
}

/** What a partner sent us of a product, over all receipts. */
export interface SentRow {
  product: string;
  name: string;
  unit: string;
  quantity: string;
  marks: number;
  receipts: number;
  last: string;
}

export interface PartnerEvent {
  event: number;
  kind: string;
  document: string;
  at: string;
  by: string;
  marks: number;
  takenBack: boolean;
}

export interface PartnerOrder {
  kind: 'purchase' | 'sales';
  number: string;
  due: string;
}

export interface PartnerPage {
  partner: PartnerRecord & { code: string };
  has: Listed<HasRow>;
  sent: SentRow[];
  events: Listed<PartnerEvent>;
  orders: PartnerOrder[];
}

/** Most rows the page lists of what they have, and of what happened. */
const MOST = { has: 300, events: 100, orders: 50 };

/** A partner with all they have from us or sent us; null where there is no such partner. */
export async function readPartnerPage(db: Db, code: string): Promise<PartnerPage | null> {
  const partner = await readPartner(db, code);
  if (!partner) return null;
  const id: ReturnType<Db> = db`(SELECT id FROM partner WHERE code = ${partner.code})`;
  const [has, sent, events, orders] = await Promise.all([
    readHas(db, id),
    readSent(db, id),
    readEvents(db, id),
    db<PartnerOrder[]>`
      SELECT o.kind, o.number, o.due_on AS due
      FROM trade_order o
        JOIN waiting_order w ON w.order_id = o.id
      WHERE o.partner_id = ${id}
      ORDER BY o.due_on, o.number
      LIMIT ${MOST.orders}
    `
  ]);
  return { partner, has, sent, events, orders: [...orders] };
}

/** What was shipped to them and did not come back. */
async function readHas(db: Db, partner: ReturnType<Db>): Promise<Listed<HasRow>> {
  const rows = await db<(HasRow & { total: number })[]>`
    SELECT m.id AS mark, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.unit,
      h.quantity, e.id AS event, e.document, e.happened_at::date AS day,
      count(*) OVER ()::int AS total
    FROM sold h
      JOIN event e ON e.id = h.event_id
      JOIN mark m ON m.id = h.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    -- As a list, so that the view adds up their shipments and not everybody’s.
    WHERE h.event_id = ANY(
        ARRAY(SELECT id FROM event WHERE partner_id = ${partner} AND kind = 'ship')
      )
      AND h.quantity > 0
    ORDER BY e.happened_at DESC, p.code, m.number_key
    LIMIT ${MOST.has}
  `;
  return mapListed(listed(rows), (row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

/** What came from them, product by product; what was taken back is left out. */
async function readSent(db: Db, partner: ReturnType<Db>): Promise<SentRow[]> {
  const rows = await db<SentRow[]>`
    SELECT p.code AS product, p.name, p.unit, sum(v.quantity) AS quantity,
      count(DISTINCT v.mark_id)::int AS marks, count(DISTINCT e.id)::int AS receipts,
      max(e.happened_at)::date AS last
    FROM event e
      JOIN movement v ON v.event_id = e.id AND v.quantity > 0
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE e.partner_id = ${partner} AND e.kind = 'receive' AND NOT is_taken_back(e.id, v.mark_id)
    GROUP BY p.code, p.name, p.unit
    ORDER BY max(e.happened_at) DESC, p.code
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

async function readEvents(db: Db, partner: ReturnType<Db>): Promise<Listed<PartnerEvent>> {
  const rows = await db<(PartnerEvent & { total: number })[]>`
    SELECT e.id AS event, e.kind, e.document, to_json(e.happened_at) #>> '{}' AS at, n.name AS by,
      (SELECT count(DISTINCT v.mark_id)::int FROM movement v WHERE v.event_id = e.id) AS marks,
      EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id) AS "takenBack",
      count(*) OVER ()::int AS total
    FROM event e
      JOIN person n ON n.id = e.booked_by
    WHERE e.partner_id = ${partner}
    ORDER BY e.happened_at DESC, e.id DESC
    LIMIT ${MOST.events}
  `;
  return listed(rows);
}
