import type { Db } from '../../kernel/db/client.ts';
import { withinDays } from '../../kernel/db/days.ts';
import { holding } from '../../kernel/db/like.ts';
import type { RecordsAsked, RecordsRead } from './asked.ts';
import { narrowed } from './narrowed.ts';
import { counted, type CountedRow } from './counted.ts';

/** Fields of a mark as a person calls them. */
const FIELDS = {
  number: 'number',
  expires_on: 'expiry',
  made_on: 'made on',
  retest_on: 'retest on',
  supplier_number: 'supplier’s number',
  warranty_start: 'warranty from'
} as const;

/** Every change of a number, date or fact, the latest booked first; what decides quality is no change. */
export async function readChanges(db: Db, asked: RecordsAsked, most: number): Promise<RecordsRead> {
  const rows = await db<CountedRow[]>`
    SELECT e.id::text AS event, m.id::text AS mark, e.booked_at::date::text AS day, e.document,
      p.code AS product, coalesce(m.number, '') AS number, coalesce(c.fact, c.field) AS field,
      coalesce(c.old_value, '') AS was, coalesce(c.new_value, '') AS is,
      coalesce(e.reason, '') AS reason, w.name AS by, count(*) OVER ()::int AS total
    FROM mark_change c
      JOIN event e ON e.id = c.event_id
      JOIN person w ON w.id = e.booked_by
      JOIN mark m ON m.id = c.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE c.field <> 'state' AND ${withinDays(db, db`e.booked_at`, asked)}
      ${narrowed(db, asked.q, holds)}
    ORDER BY e.id DESC, c.id
    LIMIT ${most}
  `;
  return counted(rows, (row) => ({
    ...row,
    field: FIELDS[row.field as keyof typeof FIELDS] ?? row.field!
  }));
}

const holds = (db: Db, q: string) => db`
  (
    e.document ILIKE ${holding(q)} OR p.code ILIKE ${holding(q)} OR w.name ILIKE ${holding(q)}
      OR m.number_key = upper(${q}) OR upper(c.old_value) = upper(${q}) OR upper(c.new_value) = upper(${q})
  )
`;
