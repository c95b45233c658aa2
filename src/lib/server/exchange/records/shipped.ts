import type { Db } from '../../kernel/db/client.ts';
import { withinDays } from '../../kernel/db/days.ts';
import { holding } from '../../kernel/db/like.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import type { RecordsAsked, RecordsRead } from './asked.ts';
import { narrowed } from './narrowed.ts';
import { counted, type CountedRow } from './counted.ts';

/** Parts that are named of what left; of more it is said how many. */
const MOST_PARTS = 5;

/**
 * Every lot and serial that left for a partner, the latest first: where it came from, and what was in
 * it when it left, which is a fact of the ledger and claims nothing of what lies further back.
 */
export async function readShipped(db: Db, asked: RecordsAsked, most: number): Promise<RecordsRead> {
  const rows = await db<CountedRow[]>`
    WITH s AS MATERIALIZED (
      SELECT e.id AS event, m.id AS mark, e.happened_at::date::text AS day, e.document,
        t.name AS customer, p.code AS product, coalesce(m.number, '') AS number,
        coalesce(l.number, '') AS lot, -sum(v.quantity) AS quantity, p.unit, m.birth_event,
        count(*) OVER ()::int AS total,
        row_number() OVER (
          ORDER BY e.happened_at DESC, e.id DESC, p.code, l.number NULLS FIRST, m.number
        ) AS at
      FROM event e
        JOIN partner t ON t.id = e.partner_id
        JOIN movement v ON v.event_id = e.id
        JOIN mark m ON m.id = v.mark_id
        JOIN product p ON p.id = m.product_id
        LEFT JOIN mark l ON l.id = m.lot_id
      WHERE e.kind = 'ship' AND ${withinDays(db, db`e.happened_at`, asked)}
        ${narrowed(db, asked.q, holds)}
      GROUP BY e.id, t.id, m.id, p.id, l.id
      ORDER BY at
      LIMIT ${most}
    ),
    made_of AS MATERIALIZED (${madeOf(db)})
    SELECT s.event::text, s.mark::text, s.day, s.document, s.customer, s.product, s.number, s.lot,
      s.quantity::text, s.unit, ${cameFrom(db)} AS came, coalesce(n.parts, '') AS "madeOf",
      CASE WHEN is_taken_back(s.event, s.mark) THEN 'yes' ELSE '' END AS "takenBack", s.total
    FROM s
      JOIN event b ON b.id = s.birth_event
      LEFT JOIN partner bt ON bt.id = b.partner_id
      LEFT JOIN made_of n ON n.host = s.mark AND n.before_event = s.event
    ORDER BY s.at
  `;
  return counted(rows, (row) => ({ ...row, quantity: trimZeros(row.quantity!) }));
}

const holds = (db: Db, q: string) => db`
  (
    t.code = upper(${q}) OR t.name ILIKE ${holding(q)} OR e.document ILIKE ${holding(q)}
      OR p.code ILIKE ${holding(q)} OR m.number_key = upper(${q}) OR l.number_key = upper(${q})
  )
`;

/** By which event it began, and from whom. */
const cameFrom = (db: Db) => db`
  CASE b.kind
    WHEN 'receive' THEN coalesce(bt.name || ', ', '') || b.document
    WHEN 'opening' THEN 'opening stock, ' || b.document
    ELSE b.kind || ', ' || b.document
  END
`;

/** What was in each (s) when it left, the first few by name: asked of all of them at once. */
const madeOf = (db: Db) => db`
  SELECT n.host, n.before_event,
    string_agg(n.part, ', ' ORDER BY n.at) FILTER (WHERE n.at <= ${MOST_PARTS})
      || CASE WHEN max(n.at) > ${MOST_PARTS} THEN ' and ' || max(n.at) - ${MOST_PARTS} || ' more'
        ELSE '' END AS parts
  FROM (
    SELECT i.host, i.before_event, q.code || coalesce(' ' || x.number, '') AS part,
      row_number() OVER (PARTITION BY i.host, i.before_event ORDER BY q.code, x.number) AS at
    FROM (SELECT array_agg(mark) AS marks, array_agg(event) AS events FROM s) w
      CROSS JOIN LATERAL insides_of(w.marks, w.events) i
      JOIN mark x ON x.id = i.part
      JOIN product q ON q.id = x.product_id
    WHERE i.went_in > i.came_out
  ) n
  GROUP BY n.host, n.before_event
`;
