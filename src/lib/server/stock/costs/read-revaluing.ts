import { COME_IN } from '../../../core/stock/costs/revaluing.ts';
import type { RevaluingMark } from '../../../core/stock/costs/told.ts';
import type { Sql } from '../../kernel/db/client.ts';
import { costNow, toldCost } from '../../kernel/db/what-counts.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { carryCosts } from './carry-costs.ts';

/** The event goods came in by, whose costs are corrected. */
export interface RevaluedEvent {
  id: number;
  kind: string;
  document: string;
  day: string;
  partner: string | null;
}

/** Most marks one revaluation takes. */
const MOST = 20_000;

/** What came in by an event from outside and was not taken back; null where there is no such event. */
export async function readBrought(
  sql: Sql,
  id: number
): Promise<{ event: RevaluedEvent; marks: RevaluingMark[] } | null> {
  const [event] = await sql<RevaluedEvent[]>`
    SELECT e.id, e.kind, e.document, e.happened_at::date AS day, p.name AS partner
    FROM event e
      LEFT JOIN partner p ON p.id = e.partner_id
    WHERE e.id = ${id} AND e.kind = ANY(${[...COME_IN]})
  `;
  if (!event) return null;
  const rows = await sql<RevaluingMark[]>`
    SELECT m.id AS mark, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.unit,
      v.quantity,
      coalesce(${toldCost(sql, sql`m.id`, sql`${id}`)}, v.cost) AS cost
    FROM (
        SELECT mark_id, sum(quantity) AS quantity,
          CASE WHEN bool_and(unit_cost IS NOT NULL) THEN
            sum(quantity * unit_cost) / sum(quantity) END AS cost
        FROM movement
        WHERE event_id = ${id} AND quantity > 0
        GROUP BY mark_id
      ) v
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE NOT is_taken_back(${id}, m.id)
    ORDER BY p.code, l.number_key NULLS FIRST, m.number_key
    LIMIT ${MOST}
  `;
  return { event, marks: rows.map(plain) };
}

/** A mark as it is worth now; null where there is no such mark. */
export async function readWorth(sql: Sql, mark: number): Promise<RevaluingMark | null> {
  await carryCosts(sql);
  const [row] = await sql<RevaluingMark[]>`
    SELECT m.id AS mark, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.unit,
      coalesce((SELECT sum(quantity) FROM stock s WHERE s.mark_id = m.id), 0) AS quantity,
      ${costNow(sql, sql`m.id`)} AS cost
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.id = ${mark}
  `;
  return row ? plain(row) : null;
}

const plain = (row: RevaluingMark): RevaluingMark => ({
  ...row,
  quantity: trimZeros(row.quantity),
  cost: row.cost && trimZeros(row.cost)
});
