import { epcisDocument, toEpcis } from '../../core/exchange/write.ts';
import type { Db } from '../kernel/db/client.ts';
import { eventHash } from './event-hash.ts';
import { OUR_CONTEXT } from './query.ts';
import { ownBase } from '../kernel/own-base.ts';
import { readLedgerEvents } from './ledger-events.ts';
import type { RecordQuery } from './record-sheet.ts';
import { writeTable, type Written } from '../kernel/tables/write-table.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

const COLUMNS = [
  ['event', 'event'],
  ['kind', 'kind'],
  ['document', 'document'],
  ['order', 'order'],
  ['partner', 'partner'],
  ['at', 'happened'],
  ['bookedAt', 'booked'],
  ['who', 'by'],
  ['product', 'product'],
  ['number', 'number'],
  ['lot', 'lot'],
  ['place', 'place'],
  ['quantity', 'quantity'],
  ['unit', 'unit'],
  ['reason', 'reason']
] as const;
const MOST_EVENTS = 50_000;

/**
 * The ledger of a period, or of a lot or serial: every movement as a table, or the events as EPCIS
 * 2.0. At most fifty thousand events.
 */
export async function writeLedger(
  db: Db,
  { from, to, number }: RecordQuery,
  format: 'csv' | 'xlsx' | 'epcis'
): Promise<Written> {
  const ids = (
    await db<{ id: number }[]>`
      SELECT e.id
      FROM event e
      WHERE (${from ?? null}::date IS NULL OR e.happened_at >= ${from ?? null}::date)
        AND (${to ?? null}::date IS NULL OR e.happened_at < ${to ?? null}::date + 1)
        AND (
          ${number ?? null}::text IS NULL
            OR EXISTS (
              SELECT
              FROM movement v
                JOIN mark m ON m.id = v.mark_id
                LEFT JOIN mark l ON l.id = m.lot_id
              WHERE v.event_id = e.id
                AND (m.number_key = upper(${number ?? ''}) OR l.number_key = upper(${number ?? ''}))
            )
        )
      ORDER BY e.happened_at, e.id
      LIMIT ${MOST_EVENTS}
    `
  ).map((row) => row.id);
  if (format === 'epcis') {
    const { events, marks } = await readLedgerEvents(db, ids);
    const written = events
      .flatMap((event) => toEpcis(event, marks, ownBase()))
      .map((event) => ({ eventID: eventHash(event, OUR_CONTEXT), ...event }));
    return {
      body: new TextEncoder().encode(
        JSON.stringify(epcisDocument(written, new Date().toISOString()))
      ),
      type: 'application/ld+json',
      name: 'ledger.jsonld'
    };
  }
  const rows = await db<Record<string, string>[]>`
    SELECT e.id::text AS event, e.kind, e.document, coalesce(o.number, '') AS order,
      coalesce(t.name, '') AS partner, to_json(e.happened_at) #>> '{}' AS at,
      to_json(e.booked_at) #>> '{}' AS "bookedAt", w.name AS who, coalesce(p.code, '') AS product,
      coalesce(m.number, '') AS number, coalesce(l.number, '') AS lot,
      coalesce(c.code, '') AS place, coalesce(v.quantity::text, '') AS quantity,
      coalesce(p.unit, '') AS unit, coalesce(e.reason, '') AS reason
    FROM event e
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN trade_order o ON o.id = e.order_id
      LEFT JOIN partner t ON t.id = e.partner_id
      LEFT JOIN movement v ON v.event_id = e.id
      LEFT JOIN mark m ON m.id = v.mark_id
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN product p ON p.id = m.product_id
      LEFT JOIN place c ON c.id = v.place_id
    WHERE e.id = ANY(${ids})
    ORDER BY e.happened_at, e.id, v.id
  `;
  return writeTable(
    'ledger',
    format,
    COLUMNS.map(([key, says]) => ({ key, says })),
    rows.map((row) => ({ ...row, quantity: row.quantity ? trimZeros(row.quantity) : '' }))
  );
}
