import type { Db } from '../kernel/db/client.ts';
import { stands } from '../kernel/db/what-counts.ts';
import { writeTable, type Written } from '../kernel/tables/write-table.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { askedEvents, type RecordQuery } from './asked-events.ts';

/**
 * Key data elements of each critical tracking event, a row for each lot or serial an event names. What
 * was used and what was made of it carry the number of their transformation, so that each unit leads
 * to its own parts.
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
  { key: 'tie', says: 'transformation' },
  { key: 'with', says: 'made into, or made of' },
  { key: 'record', says: 'event' }
] as const;

const KINDS = [
  ...['receive', 'ship', 'build', 'repack', 'teardown', 'return'],
  ...['fit', 'remove', 'swap']
];

interface Row {
  kind: string;
  role: keyof typeof EVENTS;
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
  tie: string | null;
  with: string | null;
  record: number;
}

const EVENTS = {
  receive: 'receiving',
  ship: 'shipping',
  return: 'receiving (return)',
  used: 'transformation, used',
  made: 'transformation, made',
  'put in': 'transformation, part put in',
  'taken out': 'transformation, part taken out'
} as const;

/**
 * The record sheet for a period or a lot, in time order; sortable wherever it is opened. @throws
 * Problem 422 where it is more than one file takes
 */
export async function readRecordSheet(
  db: Db,
  asked: RecordQuery
): Promise<Record<string, string>[]> {
  const ids = await askedEvents(db, asked, KINDS);
  const rows = await db<Row[]>`
    SELECT e.kind, x.role,
      coalesce(${codeOf(db, db`m`, db`l`)}, 'unmarked') AS code, p.code AS product,
      p.name AS description, x.quantity, p.unit, e.happened_at AS at, e.happened_at::date AS day,
      t.name AS partner, s.name || ', ' || c.name AS location,
      coalesce(
        (
          SELECT bt.name
          FROM event b
            LEFT JOIN partner bt ON bt.id = b.partner_id
          WHERE b.id = m.birth_event AND b.kind = 'receive'
        ),
          (SELECT name FROM company)
      ) AS made,
      e.document, o.kind AS order_kind, x.tie::text AS tie, x.with, e.id AS record
    FROM (${rowsOf(db, ids)}) x
      JOIN event e ON e.id = x.event_id
      JOIN mark m ON m.id = x.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN LATERAL (
        SELECT v.place_id
        FROM movement v
        WHERE v.event_id = x.event_id AND v.mark_id = x.mark_id
        ORDER BY v.id
        LIMIT 1
      ) v ON true
      LEFT JOIN place c ON c.id = coalesce(x.place_id, v.place_id)
      LEFT JOIN site s ON s.id = c.site_id
      LEFT JOIN partner t ON t.id = e.partner_id
      LEFT JOIN trade_order o ON o.id = e.order_id
    ORDER BY e.happened_at, e.id, x.tie NULLS FIRST, x.role DESC, x.at
  `;
  return rows.map(asRecord);
}

/** The record sheet as a file. @throws Problem 422 where it is more than one file takes */
export const writeRecordSheet = async (
  db: Db,
  asked: RecordQuery,
  format: 'csv' | 'xlsx'
): Promise<Written> =>
  writeTable(
    `record-sheet${asked.number ? `-${asked.number}` : ''}`,
    format,
    RECORD_COLUMNS,
    await readRecordSheet(db, asked)
  );

/** A serial within a lot is named by both. */
const codeOf = (db: Db, mark: ReturnType<Db>, lot: ReturnType<Db>) => db`
  CASE WHEN ${lot}.number IS NOT NULL THEN ${lot}.number || ' / ' || ${mark}.number ELSE ${mark}.number END
`;

/** What the events moved, made and used, each with what it was made into or of. */
function rowsOf(db: Db, ids: readonly number[]) {
  const asked = ids as number[];
  const inOrOut = (side: 'input' | 'output') => db`
    (
      SELECT string_agg(coalesce(${codeOf(db, db`y`, db`z`)}, q.code), ', ' ORDER BY y.id)
        FILTER (WHERE n <= 5) || CASE WHEN max(n) > 5 THEN ' and ' || max(n) - 5 || ' more' ELSE '' END
      FROM (
        SELECT mark_id, row_number() OVER (ORDER BY mark_id) AS n
        FROM ${side === 'input' ? db`transformation_input` : db`transformation_output`} w
        WHERE w.transformation_id = r.id
      ) w
        JOIN mark y ON y.id = w.mark_id
        JOIN product q ON q.id = y.product_id
        LEFT JOIN mark z ON z.id = y.lot_id
    )
  `;
  return db`
    SELECT v.event_id, f.kind AS role, v.mark_id, v.place_id, abs(v.quantity) AS quantity,
      NULL::bigint AS tie, NULL AS with, v.id AS at
    FROM movement v
      JOIN event f ON f.id = v.event_id
    WHERE f.id = ANY(${asked})
      AND f.kind IN ('receive', 'ship', 'return')
      AND NOT is_taken_back(f.id, v.mark_id)
    UNION ALL
    SELECT r.event_id, 'used', i.mark_id, NULL, i.quantity, r.id, ${inOrOut('output')}, i.mark_id
    FROM transformation r
      JOIN transformation_input i ON i.transformation_id = r.id
    WHERE r.event_id = ANY(${asked}) AND ${stands(db, db`r.id`)}
    UNION ALL
    SELECT r.event_id, 'made', o.mark_id, NULL, o.quantity, r.id, ${inOrOut('input')}, o.mark_id
    FROM transformation r
      JOIN transformation_output o ON o.transformation_id = r.id
    WHERE r.event_id = ANY(${asked}) AND NOT r.shared AND ${stands(db, db`r.id`)}
    UNION ALL
    SELECT f.from_event, 'put in', f.component_id, NULL, f.quantity, NULL, h.number, f.component_id
    FROM fitting f
      JOIN mark h ON h.id = f.host_id
    WHERE f.from_event = ANY(${asked})
    UNION ALL
    SELECT d.event_id, 'taken out', d.component_id, NULL, d.quantity, NULL, h.number, d.component_id
    FROM removal d
      JOIN mark h ON h.id = d.host_id
    WHERE d.event_id = ANY(${asked})
  `;
}

const asRecord = (row: Row): Record<string, string> => ({
  event: EVENTS[row.role],
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
  tie: row.tie ?? '',
  with: row.with ?? '',
  record: String(row.record)
});
