import type { Cost } from '../../../core/stock/costs/cost-event.ts';
import { quantity, type Quantity } from '../../../core/quantity/quantity.ts';
import { groupBy } from '../../../core/group-by.ts';
import type { Tx } from '../../kernel/db/client.ts';
import { idList } from '../../kernel/db/id-list.ts';
import { heldUntil } from '../../kernel/db/what-counts.ts';

const asCost = (text: string | null): Cost => (text === null ? null : quantity(text));

/**
 * What one of each mark cost just before an event. Marks born before it are named even where that is
 * not known.
 */
export async function readCostsBefore(
  tx: Tx,
  marks: readonly number[],
  event: number
): Promise<Map<number, Cost>> {
  const rows = await tx<{ mark: number; cost: string | null }[]>`
    SELECT m.id AS mark, c.unit_cost::text AS cost
    FROM mark m
      LEFT JOIN LATERAL (
        SELECT unit_cost
        FROM mark_cost
        WHERE mark_id = m.id AND event_id < ${event}
        ORDER BY event_id DESC, told_by DESC
        LIMIT 1
      ) c ON true
    WHERE m.id = ANY(${idList(marks)}::text::bigint[]) AND m.birth_event < ${event}
  `;
  return new Map(rows.map((row) => [row.mark, asCost(row.cost)]));
}

/**
 * How much of each mark was ours before an event, over all places.
 * @param toldUntil leaves out what was taken back until this event
 */
export async function readLyingBefore(
  tx: Tx,
  marks: readonly number[],
  event: number,
  toldUntil?: number
): Promise<Map<number, Quantity>> {
  if (marks.length === 0) return new Map();
  const rows = await tx<{ mark: number; lying: string }[]>`
    SELECT v.mark_id AS mark, sum(v.quantity)::text AS lying
    FROM movement v
      JOIN event e ON e.id = v.event_id
    WHERE v.mark_id = ANY(${idList(marks)}::text::bigint[])
      AND v.event_id < ${event}
      AND ${toldUntil === undefined ? tx`true` : heldUntil(tx, toldUntil)}
    GROUP BY v.mark_id
  `;
  return new Map(rows.map((row) => [row.mark, quantity(row.lying)]));
}

/** Costs as they stand from an event on, by mark, the earliest first. */
export async function readStanding(
  tx: Tx,
  marks: readonly number[],
  from: number
): Promise<Map<number, { event: number; cost: Cost }[]>> {
  const rows = await tx<{ mark: number; event: number; cost: string | null }[]>`
    SELECT DISTINCT ON (mark_id, event_id) mark_id AS mark, event_id AS event,
      unit_cost::text AS cost
    FROM mark_cost
    WHERE mark_id = ANY(${idList(marks)}::text::bigint[]) AND event_id >= ${from}
    ORDER BY mark_id, event_id, told_by DESC
  `;
  const all = rows.map((row) => ({ ...row, cost: asCost(row.cost) }));
  return groupBy(all, (row) => row.mark);
}
