import type { Db } from '../../kernel/db/client.ts';
import { withinDays } from '../../kernel/db/days.ts';
import { holding } from '../../kernel/db/like.ts';
import type { RecordsAsked, RecordsRead } from './asked.ts';
import { narrowed } from './narrowed.ts';
import { counted, type CountedRow } from './counted.ts';

/** What was booked in spite of a fault, by a reason or a second person, the latest booked first. */
export async function readOverruled(
  db: Db,
  asked: RecordsAsked,
  most: number
): Promise<RecordsRead> {
  const rows = await db<CountedRow[]>`
    SELECT e.id::text AS event, e.booked_at::date::text AS day, e.document,
      coalesce(r.number, '') AS number, r.message AS fault, r.answer,
      coalesce(r.reason, a.reason, '') AS reason, w.name AS by,
      coalesce(q.name, '') AS "approvedBy", count(*) OVER ()::int AS total
    FROM booking_remark r
      JOIN event e ON e.id = r.event_id
      JOIN person w ON w.id = e.booked_by
      LEFT JOIN approval a ON a.id = r.approval_id
      LEFT JOIN person q ON q.id = a.approved_by
    WHERE r.answer <> 'note' AND ${withinDays(db, db`e.booked_at`, asked)}
      ${narrowed(db, asked.q, holds)}
    ORDER BY e.id DESC, r.id
    LIMIT ${most}
  `;
  return counted(rows);
}

const holds = (db: Db, text: string) => db`
  (
    e.document ILIKE ${holding(text)} OR upper(r.number) = upper(${text})
      OR w.name ILIKE ${holding(text)} OR q.name ILIKE ${holding(text)}
  )
`;
