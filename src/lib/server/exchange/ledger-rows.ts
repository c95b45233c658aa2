import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/**
 * Columns of the ledger as a table. A row tells one thing of an event: what it moved, what it put
 * into a unit or took out, what it changed, or what it went on in spite of.
 */
export const LEDGER_COLUMNS = [
  { key: 'event', says: 'event' },
  { key: 'kind', says: 'kind' },
  { key: 'row', says: 'row' },
  { key: 'document', says: 'document' },
  { key: 'reference', says: 'their paper' },
  { key: 'order', says: 'order' },
  { key: 'partner', says: 'partner' },
  { key: 'at', says: 'happened' },
  { key: 'bookedAt', says: 'booked' },
  { key: 'who', says: 'by' },
  { key: 'takesBack', says: 'takes back event' },
  { key: 'product', says: 'product' },
  { key: 'number', says: 'number' },
  { key: 'lot', says: 'lot' },
  { key: 'place', says: 'place' },
  { key: 'quantity', says: 'quantity' },
  { key: 'unit', says: 'unit' },
  { key: 'unitCost', says: 'unit cost' },
  { key: 'host', says: 'part of unit' },
  { key: 'field', says: 'changed' },
  { key: 'from', says: 'old value' },
  { key: 'to', says: 'new value' },
  { key: 'wrong', says: 'in spite of' },
  { key: 'reason', says: 'reason' },
  { key: 'approvedBy', says: 'approved by' }
] as const;

type LedgerRow = Record<(typeof LEDGER_COLUMNS)[number]['key'], string>;

/** Every row of these events, in time order and within an event in the order it was written. */
export async function readLedgerRows(db: Db, ids: readonly number[]): Promise<LedgerRow[]> {
  const rows = await db<LedgerRow[]>`
    SELECT e.id::text AS event, e.kind, coalesce(x.row, 'event') AS row, e.document,
      coalesce(e.reference, '') AS reference, coalesce(o.number, '') AS order,
      coalesce(t.name, '') AS partner, to_json(e.happened_at) #>> '{}' AS at,
      to_json(e.booked_at) #>> '{}' AS "bookedAt", w.name AS who,
      coalesce(e.reverses_id::text, '') AS "takesBack", coalesce(p.code, '') AS product,
      coalesce(m.number, x.number, '') AS number, coalesce(l.number, '') AS lot,
      coalesce(c.code, '') AS place, coalesce(x.quantity::text, '') AS quantity,
      coalesce(p.unit, '') AS unit, coalesce(x.unit_cost::text, '') AS "unitCost",
      coalesce(h.number, '') AS host, coalesce(x.field, '') AS field,
      coalesce(x.old_value, '') AS from, coalesce(x.new_value, '') AS to,
      coalesce(x.wrong, '') AS wrong, coalesce(x.reason, e.reason, '') AS reason,
      coalesce(q.name, '') AS "approvedBy"
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN trade_order o ON o.id = e.order_id
      LEFT JOIN partner t ON t.id = e.partner_id
      LEFT JOIN (${rowsOf(db, ids)}) x ON x.event_id = e.id
      LEFT JOIN mark m ON m.id = x.mark_id
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN product p ON p.id = m.product_id
      LEFT JOIN place c ON c.id = x.place_id
      LEFT JOIN mark h ON h.id = x.host_id
      LEFT JOIN approval a ON a.id = x.approval_id
      LEFT JOIN person q ON q.id = a.approved_by
    WHERE e.id = ANY(${ids as number[]})
    ORDER BY e.happened_at, e.id, x.part, x.at
  `;
  return rows.map((row) => ({
    ...row,
    quantity: row.quantity && trimZeros(row.quantity),
    unitCost: row.unitCost && trimZeros(row.unitCost)
  }));
}

/** What the events tell, each kind of row with its own columns. */
const rowsOf = (db: Db, ids: readonly number[]) => {
  const asked = ids as number[];
  return db`
    SELECT v.event_id, 1 AS part, v.id AS at, 'moved' AS row, v.mark_id, v.place_id, v.quantity,
      v.unit_cost, NULL::bigint AS host_id, NULL AS field, NULL AS old_value, NULL AS new_value,
      NULL AS number, NULL AS wrong, NULL AS reason, NULL::bigint AS approval_id
    FROM movement v
    WHERE v.event_id = ANY(${asked})
    UNION ALL
    SELECT f.from_event, 2, 0, 'put in', f.component_id, NULL, f.quantity, NULL, f.host_id, NULL,
      NULL, NULL, NULL, NULL, NULL, NULL
    FROM fitting f
    WHERE f.from_event = ANY(${asked})
    UNION ALL
    SELECT r.event_id, 3, 0, 'taken out', r.component_id, NULL, r.quantity, NULL, r.host_id, NULL,
      NULL, NULL, NULL, NULL, NULL, NULL
    FROM removal r
    WHERE r.event_id = ANY(${asked})
    UNION ALL
    SELECT c.event_id, 4, c.id, 'changed', c.mark_id, NULL, NULL, NULL, NULL,
      coalesce(c.fact, c.field), c.old_value, c.new_value, NULL, NULL, NULL, NULL
    FROM mark_change c
    WHERE c.event_id = ANY(${asked})
    UNION ALL
    SELECT b.event_id, 5, b.id, 'went on', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL,
      b.number, b.message, b.reason, b.approval_id
    FROM booking_remark b
    WHERE b.event_id = ANY(${asked})
  `;
};
