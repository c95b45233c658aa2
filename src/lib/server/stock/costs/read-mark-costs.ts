import type { MarkCost } from '../../../core/stock/costs/told.ts';
import type { Sql } from '../../kernel/db/client.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { carryCosts } from './carry-costs.ts';

/** The course of what one of a mark costs, as it is told by now: the latest first. */
export async function readMarkCosts(sql: Sql, mark: number): Promise<MarkCost[]> {
  await carryCosts(sql);
  const rows = await sql<MarkCost[]>`
    SELECT c.unit_cost AS cost, e.id AS event, e.kind, e.document,
      e.happened_at::date AS day,
      CASE WHEN t.id <> e.id THEN
        json_build_object('event', t.id, 'kind', t.kind, 'document', t.document) END AS "toldBy"
    FROM (
        SELECT DISTINCT ON (event_id) event_id, told_by, unit_cost
        FROM mark_cost
        WHERE mark_id = ${mark}
        ORDER BY event_id, told_by DESC
      ) c
      JOIN event e ON e.id = c.event_id
      JOIN event t ON t.id = c.told_by
    ORDER BY e.id DESC
  `;
  return rows.map((row) => ({ ...row, cost: row.cost && trimZeros(row.cost) }));
}
