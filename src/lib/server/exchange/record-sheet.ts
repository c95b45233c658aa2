import type { Db } from '../kernel/db/client.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

/**
 * Key data elements of each critical tracking event, a row for each lot or serial an event names.
 * Source: 21 CFR part 1 subpart S, sections 1.1340 (shipping), 1.1345 (receiving) and 1.1350
 * (transformation), from memory.
 */
export const RECORD_COLUMNS = [
  { key: 'event', says: 'critical tracking event' },
  { key: 'code', says: 'traceability lot code' },
  { key: 'product', says: 'product' },
  { key: 'description', says: 'product description' },
  { key: 'quantity', says: 'quantity' },
  { key: 'unit', says: 'unit of measure' },
  { key: 'day', says: 'date' },
  { key: 'time', says: 'time' },
  { key: 'source', says: 'immediate previous source' },
  { key: 'location', says: 'location' },
  { key: 'recipient', says: 'immediate subsequent recipient' },
  { key: 'codeSource', says: 'traceability lot code source' },
  { key: 'documentType', says: 'reference document type' },
  { key: 'document', says: 'reference document number' },
  { key: 'record', says: 'event' }
] as const;

export interface RecordQuery {
  /** Days `YYYY-MM-DD`, both included. */ from?: string;
  to?: string;
  /** Only what names this lot or serial. */ number?: string;
}

/**
 * The record sheet for a period or a lot, in time order; sortable wherever it is opened. At most a
 * hundred thousand rows.
 */
export async function readRecordSheet(
  db: Db,
  { from, to, number }: RecordQuery
): Promise<Record<string, string>[]> {
  const rows = await db<
    {
      kind: string;
      role: string;
      code: string;
      product: string;
      description: string;
      quantity: string;
      unit: string;
      at: Date;
      day: string;
      partner: string | null;
      location: string | null;
      made: string | null;
      document: string;
      order_kind: string | null;
      record: number;
    }[]
  >`
    WITH asked AS (
      SELECT e.id
      FROM event e
      WHERE e.kind IN ('receive', 'ship', 'build', 'repack', 'teardown', 'return')
        AND (${from ?? null}::date IS NULL OR e.happened_at >= ${from ?? null}::date)
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
    )
    SELECT e.kind,
      CASE WHEN e.kind IN ('receive', 'ship', 'return') THEN e.kind WHEN v.quantity < 0 THEN 'used' ELSE 'made' END AS role,
      coalesce(
        CASE WHEN l.number IS NOT NULL THEN l.number || ' / ' || m.number ELSE m.number END,
          'unmarked'
      ) AS code,
      p.code AS product, p.name AS description, abs(v.quantity) AS quantity, p.unit,
      e.happened_at AS at, e.happened_at::date AS day, t.name AS partner,
      s.name || ', ' || c.name AS location,
      coalesce(
        (
          SELECT bt.name
          FROM event b
            LEFT JOIN partner bt ON bt.id = b.partner_id
          WHERE b.id = m.birth_event AND b.kind = 'receive'
        ),
          (SELECT name FROM company)
      ) AS made,
      e.document, o.kind AS order_kind, e.id AS record
    FROM asked a
      JOIN event e ON e.id = a.id
      JOIN movement v ON v.event_id = e.id
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = v.place_id
      JOIN site s ON s.id = c.site_id
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN partner t ON t.id = e.partner_id
      LEFT JOIN trade_order o ON o.id = e.order_id
    WHERE (v.quantity < 0 AND e.kind <> 'ship')
      OR NOT is_taken_back(e.id, v.mark_id)
    ORDER BY e.happened_at, e.id, v.id
    LIMIT 100000
  `;
  const EVENTS: Record<string, string> = {
    receive: 'receiving',
    ship: 'shipping',
    return: 'receiving (return)',
    used: 'transformation, used',
    made: 'transformation, made'
  };
  return rows.map((row) => ({
    event: EVENTS[row.role]!,
    code: row.code,
    product: row.product,
    description: row.description,
    quantity: trimZeros(row.quantity),
    unit: row.unit,
    day: row.day,
    time: row.at.toISOString(),
    source: row.kind === 'receive' || row.kind === 'return' ? (row.partner ?? '') : '',
    location: row.location ?? '',
    recipient: row.kind === 'ship' ? (row.partner ?? '') : '',
    codeSource: row.made ?? '',
    documentType: row.order_kind ? `${row.order_kind} order` : row.kind,
    document: row.document,
    record: String(row.record)
  }));
}
